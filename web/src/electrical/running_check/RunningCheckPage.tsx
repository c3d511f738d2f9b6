/** The running check: from the meter to the verdict while typing, then on record. */
import { useEffect, useMemo, useRef, useState } from "react";
import {
  ApiError,
  Complaint,
  enteredFields,
  Keypad,
  press,
  Ready,
  useGet,
  useDraft,
  useEvaluation,
  useKeys,
  useMe,
  useNarrow,
  useSchema,
  useSession,
  useSymbols,
  type Entered,
  type EnteredRule,
  type Schemas,
  type Shown,
} from "../../base";
import { AddPicture, Judged, TrendPlot, useBenchPage, useSaving, useTrends, type Mode } from "../../logbook";
import { Train, useSet, useSites, type SetOut } from "../../plant";
import { Gate, NotToBeStarted } from "../../safety";
import { Circuit } from "./Circuit";
import { StateSentence } from "./StateSentence";
import {
  carryState,
  emptyDraft,
  hasFigures,
  nextField,
  order,
  type Body,
  type Draft,
  type FigureName,
} from "./sheet";

type Context = Schemas["Context"];

/** The phases on the motor's nameplate; three where there is none. */
const phasesOf = (context: Context): number =>
  (context.parts?.motor?.plate as Schemas["MotorPlate"] | null | undefined)?.phases ?? 3;

export function RunningCheckPage() {
  const { id, recordId, mode, record } = useBenchPage();
  const set = useSet(id);
  const schema = useSchema("/api/v1/benches/running_check/schema");
  const context = useGet("/api/v1/benches/running_check/case/{set_id}", { set_id: id });
  return (
    <Ready query={set} what="Fetching the set">
      {(s) => (
        <Ready query={schema}>
          {(sch) => (
            <Ready query={context}>
              {(c) =>
                recordId === null ? (
                  <Gate
                    setId={s.id}
                    act="live_test"
                    what={`A running check of ${s.tag}`}
                    seen="Something was read on it all the same: write it down"
                  >
                    {() => (
                      <Sheet
                        key={mode}
                        set={s}
                        rules={enteredFields(sch)}
                        context={c.context}
                        mode="new"
                        record={null}
                      />
                    )}
                  </Gate>
                ) : (
                  <Ready query={record}>
                    {(r) => (
                      <Sheet
                        key={`${mode}${r.id}`}
                        set={s}
                        rules={enteredFields(sch)}
                        context={c.context}
                        mode={mode}
                        record={r}
                      />
                    )}
                  </Ready>
                )
              }
            </Ready>
          )}
        </Ready>
      )}
    </Ready>
  );
}

interface SheetProps {
  set: SetOut;
  rules: Record<string, EnteredRule>;
  context: Context;
  mode: Mode;
  record: Schemas["RecordOut"] | null;
}
function useSheet({ set, context, mode, record }: SheetProps) {
  const me = useMe();
  const [start] = useState<Draft>(() =>
    record
      ? { ...emptyDraft(), body: record.body as Body, begun: record.taken_at }
      : carryState(emptyDraft(), context.last?.body),
  );
  const draft = useDraft<Draft>(`${me.username}:${set.id}:running_check:${mode}${record?.id ?? ""}`, start);
  const { now } = useSession();
  const change = (body: Body) =>
    draft.change((d) => {
      const next = { ...d.body, ...body };
      // A sheet whose figures were all taken out again begins anew with the next one.
      return {
        ...d,
        begun: hasFigures(next) || !hasFigures(d.body) ? d.begun || now().toISOString() : "",
        body: next,
        carried: d.carried.filter((c) => !(c in body)),
      };
    });
  // Nothing typed yet: it would be of the moment this page was opened.
  const [opened] = useState(() => now().toISOString());
  return { ...draft, draft: draft.value, changeBody: change, opened };
}

function Sheet(props: SheetProps) {
  const { set, rules, context, mode, record } = props;
  const { draft, changeBody, change, done, kept, opened } = useSheet(props);
  const me = useMe();
  const { setPrefs, now } = useSession();
  const symbols = useSymbols();
  const narrow = useNarrow();
  const corrects = record?.id ?? null;
  const entry = { uuid: draft.entry, taken_at: draft.begun || opened, device: "browser", body: draft.body };
  const { answer, before, error, ask } = useEvaluation<Schemas["ShownRunningCheckView"]>("running_check", {
    set_id: set.id,
    corrects,
    entries: [entry],
  });
  const saving = useSaving(set.id);
  const [held, setHeld] = useState<FigureName | null>(null);
  const phases = phasesOf(context);
  const fields = order(phases);
  const may = set.may !== "viewer";
  const writes = mode !== "pencil" && may;
  const units = me.units;
  const box = useRef<HTMLDivElement>(null);
  const zone = useSites().data?.find((s) => s.id === set.site_id)?.time_zone ?? "UTC";

  const figure = (name: FigureName, next: Entered | null) => changeBody({ [name]: next });
  const unitOf = (dimension: string, unit: string) => {
    const body: Body = {};
    for (const f of fields)
      if (rules[f]?.dimension === dimension && draft.body[f]) body[f] = { text: draft.body[f].text, unit };
    if (Object.keys(body).length) changeBody(body);
    void setPrefs({ units: { [dimension]: unit } });
  };
  const focus = (name: FigureName) => box.current?.querySelector<HTMLInputElement>(`#${name}`)?.focus();
  const save = async () => {
    if (!writes || !hasFigures(draft.body)) return;
    const request = {
      set_id: set.id,
      sheet: draft.sheet,
      corrects,
      reason: draft.reason,
      seen: answer && !before ? answer.verdict : null,
      entries: [{ ...entry, taken_at: draft.begun || now().toISOString() }],
    };
    const refused = await saving.put("running_check", request, `${set.tag} running check`, draft.sheet, () =>
      done(emptyDraft()),
    );
    if (refused instanceof ApiError && refused.code === "sheet_id_used")
      change((d) => ({ ...d, sheet: crypto.randomUUID(), entry: crypto.randomUUID() }));
  };
  useKeys([
    { key: "Enter", ctrl: true, does: "put on record", run: () => void save() },
    { key: "e", does: "enter the first figure", run: () => focus(fields[0]!) },
  ]);
  const title = {
    new: "Running check",
    correct: "Correct a running check",
    pencil: "In pencil: nothing is saved",
  }[mode];
  const control = set.components.find((c) => c.slot === "control")?.kind ?? "";
  const lastOf = (name: FigureName) => answer?.ghosts.find((g) => g.field === name && g.whose === "last");
  const width = narrow ? Math.min(358, window.innerWidth - 32) : 560;
  return (
    <div className={narrow && held ? "haskeypad" : ""} ref={box}>
      <div className="rowflex" style={{ justifyContent: "space-between", alignItems: "flex-start" }}>
        <h1>
          <span className="mono">{set.tag}</span> <span style={{ fontWeight: 400 }}>{title}</span>{" "}
          {!narrow && (
            <span className="mute" style={{ fontWeight: 400, fontSize: "1rem" }}>
              {set.service}, {set.role}
            </span>
          )}
        </h1>
        {!narrow && (
          <Train
            kind={set.kind}
            posture={set.posture}
            slots={set.slots}
            control={control}
            parts={answer?.parts ?? []}
            width={set.posture === "flat" ? 230 : 90}
            label={set.tag}
          />
        )}
      </div>
      {kept && mode !== "pencil" && (
        <p className="notice" style={{ padding: "6px 14px" }}>
          Taken up where you left it.{" "}
          <button
            className="linklike"
            onClick={() =>
              done(
                record
                  ? { ...emptyDraft(), body: record.body as Body, begun: record.taken_at }
                  : carryState(emptyDraft(), context.last?.body),
              )
            }
          >
            Start afresh
          </button>
        </p>
      )}
      {!may && mode === "new" && (
        <p className="notice">
          You can try figures here; putting them on record takes a technician's rights.
        </p>
      )}
      {mode === "new" && <NotToBeStarted set={set} />}
      {answer && answer.cautions.length > 0 && (
        <div className="cautions" role="note" aria-label="Cautions">
          {answer.cautions.map((c) => (
            <p key={c}>{c}</p>
          ))}
        </div>
      )}
      <div className="bench">
        <div>
          <Circuit
            width={width}
            phases={phases}
            body={draft.body}
            rules={rules}
            units={units}
            symbols={symbols}
            answer={answer}
            plate={plateWords(set)}
            keypad={narrow}
            pencil={mode === "pencil"}
            onChange={figure}
            onUnit={unitOf}
            onFocus={setHeld}
            onNext={(n) => focus(nextField(fields, n))}
          />
          <StateSentence
            body={draft.body}
            carried={draft.carried}
            onDrive={control === "drive"}
            tempUnit={units.temperature ?? "degC"}
            tempSymbol={symbols[units.temperature ?? "degC"] ?? ""}
            onTempUnit={() => {
              const u = units.temperature === "degF" ? "degC" : "degF";
              if (draft.body.ambient) changeBody({ ambient: { text: draft.body.ambient.text, unit: u } });
              void setPrefs({ units: { temperature: u } });
            }}
            onState={changeBody}
          />
          {mode === "correct" && (
            <div className="field" style={{ marginTop: 6 }}>
              <label htmlFor="reason">What was wrong</label>
              <input
                id="reason"
                value={draft.reason}
                onFocus={() => setHeld(null)}
                onChange={(e) => change((d) => ({ ...d, reason: e.target.value }))}
              />
            </div>
          )}
          <div className="noteline">
            <div className="field">
              <label htmlFor="note">Note</label>
              <input
                id="note"
                maxLength={500}
                value={draft.body.note ?? ""}
                onFocus={() => setHeld(null)}
                onChange={(e) => changeBody({ note: e.target.value })}
              />
              {writes && mode === "new" && <AddPicture setId={set.id} tag={set.tag} entry={draft.entry} />}
            </div>
            {writes && (
              <button
                className="btn-ink"
                disabled={saving.sending || !hasFigures(draft.body)}
                onClick={() => void save()}
              >
                {mode === "correct" ? "Put the correction on record" : "Put on record"}
              </button>
            )}
          </div>
          {saving.sending && (
            <p role="status" style={{ margin: "6px 0" }}>
              Kept on this device; sending…
            </p>
          )}
          <Complaint error={saving.refusal} />
          {!narrow && <Trend setId={set.id} zone={zone} />}
        </div>
        <div>
          <Problems answer={answer} />
          {answer && <Judged answer={answer} before={before} />}
          {answer && <Derived answer={answer} />}
          {answer && hasFigures(draft.body) && answer.missing.length > 0 && (
            <ul className="notes mute" aria-label="Still missing">
              {answer.missing.map((m) => (
                <li key={m.field}>{m.message}</li>
              ))}
            </ul>
          )}
          {!hasFigures(draft.body) && (
            <p className="mute">Put in what the meter shows. The verdict stands here while you type.</p>
          )}
          {error && (
            <p className="mute">
              No verdict for these figures yet: {error.message}{" "}
              {error.again ? (
                ""
              ) : (
                <button className="linklike" onClick={ask}>
                  ask again
                </button>
              )}
            </p>
          )}
        </div>
      </div>
      {narrow && held && (
        <PhoneKeys
          held={held}
          fields={fields}
          rules={rules}
          units={units}
          symbols={symbols}
          body={draft.body}
          left={me.hand === "left"}
          answer={answer}
          before={before}
          last={lastOf(held)?.differs ? "" : (lastOf(held)?.text ?? "")}
          onChange={figure}
          onUnit={unitOf}
          onNext={() => focus(nextField(fields, held))}
          onClose={() => {
            setHeld(null);
            (document.activeElement as HTMLElement | null)?.blur();
          }}
        />
      )}
    </div>
  );
}
function Trend({ setId, zone }: { setId: number; zone: string }) {
  const first = useTrends(setId).data?.find((t) => t.measurand === "current_mean");
  return first ? (
    <div style={{ marginTop: 18 }}>
      <TrendPlot trend={first} zone={zone} height={140} />
    </div>
  ) : null;
}

function plateWords(set: SetOut): string[] {
  const lines = set.components.find((c) => c.slot === "motor")?.lines ?? [];
  const pick = (label: string) => lines.find((l) => l.startsWith(label))?.split(": ")[1];
  const first = [pick("Power"), pick("Plate volts"), pick("Plate amps")].filter(Boolean).join("  ");
  const sf = pick("Service factor");
  return [first, [pick("Speed"), sf && `SF ${sf}`].filter(Boolean).join("  ")].filter(Boolean);
}

function Problems({ answer }: { answer: Shown | null }) {
  if (!answer?.problems.length) return null;
  return (
    <div className="notice bad" role="alert" data-testid="problems">
      {answer.problems.map((p) => (
        <div key={p.field + p.code}>{p.message}</div>
      ))}
    </div>
  );
}

const DERIVED: [string, string][] = [
  ["voltage_unbalance", "voltage unbalance"],
  ["voltage_unbalance_true", "negative sequence"],
  ["derating", "may carry"],
  ["current_unbalance", "current unbalance"],
  ["load_worst", "worst leg of plate"],
  ["load_mean", "mean of plate"],
  ["load_adjusted", "at plate volts"],
  ["own_median", "own median"],
];
function Derived({ answer }: { answer: Shown }) {
  const rows = DERIVED.filter(([k]) => answer.values[k]);
  if (rows.length < 2) return null;
  const legs = (of: string) =>
    [1, 2, 3].flatMap((n) => answer.values[`amps_${n}_of_${of}`]?.shown ?? []).join(" · ");
  return (
    <div className="derived" aria-label="Figures worked out">
      {rows.map(([k, label]) => (
        <div key={k}>
          <span className="lab">{label}</span>
          <span className="mono" data-value={k}>
            {answer.values[k]?.shown}
          </span>
        </div>
      ))}
      {legs("plate") && (
        <div className="wide">
          <span className="lab">each leg of plate amps</span>
          <span className="mono" data-value="legs_of_plate">
            {legs("plate")}
          </span>
        </div>
      )}
      {legs("service_factor") && (
        <div className="wide">
          <span className="lab">each leg of service-factor amps</span>
          <span className="mono" data-value="legs_of_service_factor">
            {legs("service_factor")}
          </span>
        </div>
      )}
    </div>
  );
}

function PhoneKeys(p: {
  held: FigureName;
  fields: FigureName[];
  rules: Record<string, EnteredRule>;
  units: Record<string, string>;
  symbols: Record<string, string>;
  body: Body;
  left: boolean;
  answer: Shown | null;
  before: boolean;
  last: string;
  onChange: (n: FigureName, v: Entered | null) => void;
  onUnit: (d: string, u: string) => void;
  onNext: () => void;
  onClose: () => void;
}) {
  const rule = p.rules[p.held];
  const unit = p.body[p.held]?.unit || (rule && p.units[rule.dimension]) || rule?.unit || "";
  const text = p.body[p.held]?.text ?? "";
  const put = (t: string) => p.onChange(p.held, t ? { text: t, unit } : null);
  const lastOne = p.fields.at(-1) === p.held;
  const says = useMemo(() => {
    const problem = p.answer?.problems[0];
    if (problem) return <span className="v-act">{problem.message}</span>;
    const top = p.answer?.findings[0];
    return top ? (
      <span>
        <strong className={`v-${top.verdict}`}>
          {top.title}: {top.verdict}.
        </strong>{" "}
        {top.reason}
      </span>
    ) : (
      <span className="mute">{rule?.label}</span>
    );
  }, [p.answer, rule?.label]);
  useEffect(() => {
    const field = document.getElementById(p.held);
    field?.scrollIntoView({ block: "center" });
  }, [p.held]);
  const next = p.fields[(p.fields.indexOf(p.held) + 1) % p.fields.length]!;
  const name = (p.rules[next]?.label ?? "").replace("Volts ", "").replace("Amps ", "");
  return (
    <Keypad
      left={p.left}
      says={says}
      unit={unit}
      units={(rule?.units ?? []).map((u) => ({ code: u, symbol: p.symbols[u] ?? u }))}
      last={p.last}
      nextLabel={lastOne ? "done" : `next, ${name}`}
      onKey={(k) => put(press(text, k))}
      onUnit={(u) => rule && p.onUnit(rule.dimension, u)}
      onSame={() => put(p.last)}
      onClear={() => p.onChange(p.held, null)}
      onNext={lastOne ? p.onClose : p.onNext}
    />
  );
}
