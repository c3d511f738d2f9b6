/** The insulation test: prepared, timed, judged while it runs; what was typed afterwards counts as well. */
import { useEffect, useMemo, useRef, useState } from "react";
import { Link } from "react-router";
import {
  Complaint,
  KeptLate,
  deviceName,
  enteredFields,
  Keypad,
  press,
  Ready,
  useDraft,
  useEvaluation,
  useKeys,
  useMe,
  useNarrow,
  useOpenSheet,
  useSchema,
  useSession,
  useSymbols,
  type Entered,
  type EnteredRule,
  type Schemas,
  type Shown,
} from "../../base";
import { AddPicture, Judged, useBenchPage, useSaving, type Mode } from "../../logbook";
import { useSet, useSites, type SetOut } from "../../plant";
import { Gate, ProofPanel, useOffer, useSafeSheet } from "../../safety";
import { CurvePaper } from "./CurvePaper";
import { nothingPending, SetupField, SetupSentence, unitFor, type FieldTools, type Pending } from "./fields";
import { clockOf, rowsOf, said, watch, type Body, type Entry, type Leg, type SetupFigure } from "./logic";
import { Stopwatch, useTick } from "./Stopwatch";
import { WindingDrawing } from "./WindingDrawing";

type RecordOut = Schemas["RecordOut"];
const LEG_WORD: Record<Leg, string> = { all: "the winding", L1: "L1", L2: "L2", L3: "L3" };
interface Marked {
  "x-marks"?: number[];
  $defs?: Record<string, Marked>;
}
/** The seconds at which a test is read, from whichever model of the entry says them. */
const marksOf = (schema: unknown): number[] =>
  Object.values((schema as Marked).$defs ?? {}).find((m) => m["x-marks"])?.["x-marks"] ?? [];

export function InsulationPage() {
  const { id, recordId, mode, record } = useBenchPage();
  const set = useSet(id);
  const schema = useSchema("/api/v1/benches/insulation/schema");
  return (
    <Ready query={set} what="Fetching the set">
      {(s) => (
        <Ready query={schema}>
          {(sch) =>
            recordId === null ? (
              <Sheet
                key={mode}
                set={s}
                rules={enteredFields(sch)}
                marks={marksOf(sch)}
                mode="new"
                record={null}
              />
            ) : (
              <Ready query={record}>
                {(r) => (
                  <Sheet
                    key={`${mode}${r.id}`}
                    set={s}
                    rules={enteredFields(sch)}
                    marks={marksOf(sch)}
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
  );
}

/** A record's facts as entries again: the start of a correction, or of a try in pencil. */
function entriesOf(record: RecordOut): Entry[] {
  const body = record.body as { setup?: Body; readings?: Body[] };
  const entry = (b: Body): Entry => ({
    uuid: crypto.randomUUID(),
    taken_at: record.taken_at,
    device: deviceName(),
    body: b,
  });
  return [
    entry({ kind: "setup", ...body.setup }),
    ...(body.readings ?? []).map((r) => entry({ kind: "reading", ...r })),
  ];
}

interface Props {
  set: SetOut;
  rules: Record<string, EnteredRule>;
  marks: number[];
  mode: Mode;
  record: RecordOut | null;
}
function Sheet({ set, rules, marks, mode, record }: Props) {
  const me = useMe();
  const { now } = useSession();
  const symbols = useSymbols();
  const narrow = useNarrow();
  const zone = useSites().data?.find((s) => s.id === set.site_id)?.time_zone ?? "UTC";
  const [start] = useState(() => (record ? entriesOf(record) : []));
  const apart = record ? `${mode}${record.id}` : "";
  const sheet = useOpenSheet<Body>("insulation", {
    user: me.username,
    setId: set.id,
    tag: set.tag,
    apart,
    start,
    now,
  });
  const draft = useDraft<Pending & { leg: Leg; reason: string }>(
    `${me.username}:${set.id}:insulation:pending:${apart}`,
    { ...nothingPending, leg: "all", reason: "" },
  );
  const pending = draft.value;
  const [held, setHeld] = useState<string | null>(null);
  const saving = useSaving(set.id);
  const may = set.may !== "viewer";
  const control = set.components.find((c) => c.slot === "control")?.kind ?? "";
  const body = said(sheet.entries);
  const rows = rowsOf(sheet.entries);
  const clock = clockOf(sheet.entries);
  const running = clock !== null && clock.endedAt === null;
  const leg: Leg = running ? clock.leg : pending.leg;
  const live = useLive(sheet.entries, pending);
  const { answer, before, error, ask } = useEvaluation<Schemas["ShownInsulationView"]>("insulation", {
    set_id: set.id,
    corrects: record?.id ?? null,
    entries: live,
  });
  const tools: FieldTools = {
    rules,
    units: me.units,
    symbols,
    keypad: narrow,
    may,
    answer,
    onFocus: setHeld,
  };
  const say = (change: Body) => sheet.add({ kind: "setup", ...change });
  const commit = (name: SetupFigure) => {
    const typed = pending.setup[name];
    if (!typed) return;
    const rest = { ...pending.setup };
    delete rest[name];
    draft.change((d) => ({ ...d, setup: rest }));
    const old = body[name];
    if (typed.text.trim() && (old?.text !== typed.text || old.unit !== typed.unit)) say({ [name]: typed });
  };
  const typeOhms = (next: Entered) =>
    draft.change((d) => ({ ...d, ohms: next, firstKey: next.text ? d.firstKey || now().toISOString() : "" }));
  const put = () => {
    const typed = pending.ohms;
    if (!typed?.text.trim()) return;
    const seconds = running ? null : Number(pending.second.replace(",", "."));
    if (!running && (pending.second.trim() === "" || Number.isNaN(seconds))) {
      document.getElementById("f-second")?.focus();
      return;
    }
    const at = running && pending.firstKey ? new Date(pending.firstKey) : now();
    sheet.add({ kind: "reading", leg, ohms: typed, ...(seconds === null ? {} : { seconds }) }, at);
    const later = marks.find((m) => m > (seconds ?? 0));
    draft.change((d) => ({
      ...d,
      ohms: { text: "", unit: typed.unit },
      firstKey: "",
      second: seconds !== null && later ? String(later) : d.second,
    }));
  };
  const over = () => {
    sheet.done();
    draft.done({ ...nothingPending, leg: "all", reason: "" });
  };
  const save = async () => {
    if (mode === "pencil" || !may || saving.sending || rows.length === 0) return;
    const left = pending.ohms?.text.trim();
    if (left) put();
    const request = {
      set_id: set.id,
      sheet: sheet.sheet,
      corrects: record?.id ?? null,
      reason: pending.reason,
      seen: answer && !before ? answer.verdict : null,
      entries: sheet.entries,
    };
    await saving.put("insulation", request, `${set.tag} insulation test`, `${sheet.sheet}-record`, over);
  };
  const leave = async () => {
    const why = pending.reason.trim();
    if (!why) return document.getElementById("why-left")?.focus();
    await saving.leave(sheet.sheet, why, `${set.tag}, test left`, over);
  };
  const mayTest = useOffer(set.id, "insulation_test").offer?.offered === true;
  const focusOhms = () => document.getElementById("f-ohms")?.focus();
  useKeys([
    { key: "Enter", ctrl: true, does: "put on record", run: () => void save() },
    { key: "e", does: "enter a reading", run: focusOhms },
    {
      key: "v",
      does: "volts on, volts off",
      run: () => {
        if (may && mode === "new" && (running || mayTest))
          sheet.add({ kind: running ? "end" : "start", leg });
      },
    },
  ]);
  const taken = rows.filter((r) => r.leg === leg).map((r) => r.second);
  useWake(running, clock?.startedAt ?? 0, marks, taken, now, focusOhms);
  const refused = answer?.problems.find((p) => p.code === "built_in_electronics");
  const width = narrow ? Math.min(358, window.innerWidth - 32) : 560;
  const discharge = answer?.view.clocks.find((c) => c.name === clock?.leg)?.discharge_until ?? null;
  const field = (name: SetupFigure, label: string, w?: string) => (
    <SetupField
      tools={tools}
      name={name}
      label={label}
      value={body[name]}
      pending={pending.setup[name]}
      {...(w ? { width: w } : {})}
      onType={(next) => draft.change((d) => ({ ...d, setup: { ...d.setup, [name]: next } }))}
      onCommit={() => commit(name)}
    />
  );
  const title = {
    new: "Insulation test",
    correct: "Correct an insulation test",
    pencil: "In pencil: nothing is saved",
  }[mode];
  const paper = answer?.view.paper ?? null;
  if (refused) return <Forbidden set={set} message={refused.message} right={refused.right ?? ""} />;
  return (
    <div className={narrow && held ? "haskeypad" : ""}>
      <h1>
        <span className="mono">{set.tag}</span> <span style={{ fontWeight: 400 }}>{title}</span>{" "}
        {!narrow && (
          <span className="mute" style={{ fontWeight: 400, fontSize: "1rem" }}>
            {set.service}, dead, isolated and discharged
          </span>
        )}
      </h1>
      {sheet.by && sheet.mine < sheet.entries.length && (
        <p className="notice" style={{ padding: "6px 14px" }}>
          You and {sheet.by} are on one sheet: readings of both count.
        </p>
      )}
      {mode === "new" &&
        sheet.mine > 0 &&
        sheet.others.map((o) => (
          <p key={o.uuid} className="notice" style={{ padding: "6px 14px" }}>
            {o.opened_by} has another test of this set open.{" "}
            <button className="linklike" onClick={() => sheet.join(o.uuid)}>
              Take part in that one
            </button>
          </p>
        ))}
      {!may && <p className="notice">You can look; putting a test on record takes a technician's rights.</p>}
      {answer && answer.cautions.length > 0 && (
        <div className="cautions" role="note" aria-label="Cautions">
          {answer.cautions.map((c) => (
            <p key={c}>{c}</p>
          ))}
        </div>
      )}
      <div className="bench">
        <div>
          <SetupSentence body={body} control={control} may={may} onSay={say} />
          <div className="windingbox" style={{ width, maxWidth: "100%" }}>
            <WindingDrawing width={width} body={body} leg={leg} live={running} control={control} />
            <div className="setupfields">
              {field("test_volts", "test volts dc")}
              {field("ceiling", "tester reads up to")}
              {field("winding", "winding")}
              {field("ambient", "room")}
              {field("humidity", "humidity")}
              {answer?.values.dew_point && (
                <span className="setupfield">
                  <span className="lab">dew point</span>
                  <span className="mono" data-value="dew_point">
                    {answer.values.dew_point.shown}
                  </span>
                </span>
              )}
            </div>
          </div>
          {mode === "new" && (
            <Gate
              setId={set.id}
              act="insulation_test"
              what="Volts on"
              seen=""
              inPlace={may ? <ProveHere setId={set.id} tag={set.tag} /> : null}
            >
              {(offered) =>
                (offered || running || (clock !== null && clock.dischargedAt === null)) && (
                  <Stopwatch
                    clock={clock}
                    now={now}
                    marks={marks}
                    taken={taken}
                    dischargeUntil={discharge}
                    leg={LEG_WORD[running ? leg : clock?.dischargedAt == null ? (clock?.leg ?? leg) : leg]}
                    may={may}
                    width={width}
                    onStart={() => {
                      sheet.add({ kind: "start", leg });
                      setTimeout(focusOhms, 0);
                    }}
                    onEnd={() => clock && sheet.add({ kind: "end", leg: clock.leg })}
                    onDischarged={() => clock && sheet.add({ kind: "discharged", leg: clock.leg })}
                  />
                )
              }
            </Gate>
          )}
          {may && (
            <div className="readingline">
              <select
                className="inline-select"
                aria-label="Leg"
                value={leg}
                disabled={running}
                onChange={(e) => draft.change((d) => ({ ...d, leg: e.target.value as Leg, second: "" }))}
              >
                {(["all", "L1", "L2", "L3"] as Leg[]).map((l) => (
                  <option key={l} value={l}>
                    {LEG_WORD[l]}
                  </option>
                ))}
              </select>
              {!running && (
                <>
                  at{" "}
                  <input
                    id="f-second"
                    className="inline-input mono"
                    aria-label="Second of the reading"
                    inputMode={narrow ? "none" : "decimal"}
                    autoComplete="off"
                    placeholder="60"
                    value={pending.second}
                    onFocus={() => setHeld("second")}
                    onChange={(e) => draft.change((d) => ({ ...d, second: e.target.value }))}
                  />{" "}
                  s
                </>
              )}
              <input
                id="f-ohms"
                className="mono bigfield"
                aria-label="Insulation"
                autoComplete="off"
                inputMode={narrow ? "none" : "decimal"}
                enterKeyHint="next"
                value={pending.ohms?.text ?? ""}
                onFocus={() => setHeld("ohms")}
                onChange={(e) =>
                  typeOhms({ text: e.target.value, unit: unitFor(tools, "ohms", pending.ohms) })
                }
                onKeyDown={(e) => {
                  if (e.key === "Enter" && !e.ctrlKey) {
                    e.preventDefault();
                    put();
                  }
                }}
              />
              <select
                className="inline-select unit"
                aria-label="Insulation, unit"
                value={unitFor(tools, "ohms", pending.ohms)}
                onChange={(e) => typeOhms({ text: pending.ohms?.text ?? "", unit: e.target.value })}
              >
                {(rules.ohms?.units ?? []).map((u) => (
                  <option key={u} value={u}>
                    {symbols[u] ?? u}
                  </option>
                ))}
              </select>
              <button className="btn-line" onClick={put} disabled={!pending.ohms?.text.trim()}>
                Take it
              </button>
            </div>
          )}
          <Readings
            rows={rows}
            answer={answer}
            symbols={symbols}
            may={may}
            onBack={(uuid) => sheet.add({ kind: "undo", undoes: uuid })}
          />
          <Complaint error={sheet.refusal} />
          {may && sheet.entries.length > 0 && (
            <AddPicture setId={set.id} tag={set.tag} entry={sheet.entries.at(-1)?.uuid ?? ""} />
          )}
          <KeptLate sheet={sheet.late} />
        </div>
        <div>
          <CurvePaper paper={paper} width={narrow ? width : 600} height={narrow ? 210 : 250} zone={zone} />
          <Derived answer={answer} />
          {answer && <Judged answer={answer} before={before} />}
          {answer?.due && rows.length > 0 && (
            <p data-testid="due">
              <span className="lab mute">Next: </span>
              {answer.due.reason}
            </p>
          )}
          {answer && answer.missing.length > 0 && (
            <ul className="notes mute" aria-label="Still missing">
              {answer.missing.map((m) => (
                <li key={m.field}>{m.message}</li>
              ))}
            </ul>
          )}
          <Problems answer={answer} />
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
          {(mode === "correct" || (may && mode === "new" && sheet.entries.length > 0)) && (
            <div className="field" style={{ marginTop: 8 }}>
              <label htmlFor="why-left">
                {mode === "correct" ? "What was wrong" : "If the test is left without a record, why"}
              </label>
              <input
                id="why-left"
                value={pending.reason}
                onFocus={() => setHeld(null)}
                onChange={(e) => draft.change((d) => ({ ...d, reason: e.target.value }))}
              />
            </div>
          )}
          <div className="savebar">
            {mode === "new" && may && sheet.entries.length > 0 && (
              <button className="btn-line" onClick={() => void leave()}>
                Leave the test
              </button>
            )}
            {mode !== "pencil" && may && (
              <button
                className="btn-ink"
                disabled={saving.sending || rows.length === 0}
                onClick={() => void save()}
              >
                {mode === "correct" ? "Put the correction on record" : "Put on record"}
              </button>
            )}
          </div>
          {saving.sending && <p role="status">Kept on this device; sending…</p>}
          <Complaint error={saving.refusal} />
        </div>
      </div>
      {narrow && held && (
        <PhoneKeys
          held={held}
          tools={tools}
          pending={pending}
          body={body}
          left={me.hand === "left"}
          answer={answer}
          onSetup={(name, next) => draft.change((d) => ({ ...d, setup: { ...d.setup, [name]: next } }))}
          onOhms={typeOhms}
          onSecond={(text) => draft.change((d) => ({ ...d, second: text }))}
          onNext={() => {
            if (held === "ohms") put();
            else if (held === "second") focusOhms();
            else {
              commit(held as SetupFigure);
              setHeld(null);
            }
          }}
          onClose={() => {
            setHeld(null);
            (document.activeElement as HTMLElement | null)?.blur();
          }}
        />
      )}
    </div>
  );
}

/** The entries with what is still being typed laid over, so that the verdict answers at every keystroke. */
function useLive(entries: Entry[], pending: Pending): Entry[] {
  const typed = JSON.stringify(pending.setup);
  return useMemo(() => {
    const setup = Object.fromEntries(
      Object.entries(JSON.parse(typed) as Pending["setup"]).filter(([, v]) => v.text.trim()),
    );
    if (Object.keys(setup).length === 0) return entries;
    const last = entries.at(-1)?.taken_at ?? "2000-01-01T00:00:00Z";
    return [
      ...entries,
      { uuid: "typing-now-setup", taken_at: last, device: deviceName(), body: { kind: "setup", ...setup } },
    ];
  }, [entries, typed]);
}
/** Wakes the reading's field at each mark. */
function useWake(
  running: boolean,
  startedAt: number,
  marks: number[],
  taken: number[],
  now: () => Date,
  wake: () => void,
) {
  useTick(running);
  const woken = useRef(0);
  const elapsed = running ? (now().getTime() - startedAt) / 1000 : 0;
  const due = running ? marks.find((m) => elapsed >= m - 4 && elapsed < m) : undefined;
  const read = taken.some((t) => due !== undefined && Math.abs(t - due) < 4);
  useEffect(() => {
    if (due === undefined || read || woken.current === due + startedAt) return;
    woken.current = due + startedAt;
    const inHand = document.activeElement;
    if (!(inHand instanceof HTMLInputElement) || inHand.id === "f-ohms") wake();
  }, [due, read, startedAt, wake]);
}

/** The three readings where the test is made, on a set that is isolated for it. */
function ProveHere({ setId, tag }: { setId: number; tag: string }) {
  const sheet = useSafeSheet(setId, tag);
  const safety = sheet.safety.data;
  const isolated = safety && ["isolated", "live"].includes(safety.isolation.state);
  return isolated ? (
    <div style={{ flexBasis: "100%" }}>
      <ProofPanel safety={safety} add={sheet.add} refusal={sheet.refusal} />
    </div>
  ) : (
    <span className="mute">Readings that were taken can be typed in below all the same.</span>
  );
}
function Forbidden({ set, message, right }: { set: SetOut; message: string; right: string }) {
  return (
    <div className="emptyword" role="alert">
      <h1>
        <span className="mono">{set.tag}</span>: no insulation test here
      </h1>
      <p>{message}</p>
      <p className="mute">What is right: {right}.</p>
      <p>
        <Link to={`/sets/${set.id}`}>Back to the set</Link>
      </p>
    </div>
  );
}
function Problems({ answer }: { answer: Shown | null }) {
  return answer?.problems.length ? (
    <div className="notice bad" role="alert" data-testid="problems">
      {answer.problems.map((p) => (
        <div key={p.field + p.code}>{p.message}</div>
      ))}
    </div>
  ) : null;
}
const DERIVED: [string, string][] = [
  ["minute", "at one minute"],
  ["at40", "at 40 °C"],
  ["factor", "correction"],
  ["absorption", "absorption ratio"],
  ["polarisation", "polarisation index"],
  ["minimum", "minimum at 40 °C"],
];
function Derived({ answer }: { answer: Shown | null }) {
  const legs = ["", "_L1", "_L2", "_L3"];
  const rows = DERIVED.flatMap(([k, label]) =>
    legs.map((l) => [`${k}${l}`, l ? `${label}, ${l.slice(1)}` : label] as const),
  ).filter(([k]) => answer?.values[k]);
  if (!answer || rows.length < 2) return null;
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
    </div>
  );
}
function Readings({
  rows,
  answer,
  symbols,
  may,
  onBack,
}: {
  rows: ReturnType<typeof rowsOf>;
  answer: Shown | null;
  symbols: Record<string, string>;
  may: boolean;
  onBack: (uuid: string) => void;
}) {
  if (rows.length === 0) return null;
  return (
    <ul className="readings" aria-label="Readings">
      {rows.map((r) => (
        <li key={r.uuid} className={answer?.problems.some((p) => p.field === r.uuid) ? "refused" : ""}>
          <span className="mute">
            {r.leg === "all" ? "" : `${r.leg} `}
            {watch(r.second)}
          </span>{" "}
          <span className="mono">
            {r.ohms.text} {symbols[r.ohms.unit ?? ""] ?? ""}
          </span>
          {may && (
            <button
              className="linklike"
              aria-label={`Take back ${r.ohms.text} at ${watch(r.second)}`}
              onClick={() => onBack(r.uuid)}
            >
              take back
            </button>
          )}
        </li>
      ))}
    </ul>
  );
}
function PhoneKeys(p: {
  held: string;
  tools: FieldTools;
  pending: Pending;
  body: Body;
  left: boolean;
  answer: Shown | null;
  onSetup: (name: SetupFigure, next: Entered) => void;
  onOhms: (next: Entered) => void;
  onSecond: (text: string) => void;
  onNext: () => void;
  onClose: () => void;
}) {
  const { held, tools, pending } = p;
  const isSetup = held !== "ohms" && held !== "second";
  const now =
    held === "ohms"
      ? pending.ohms
      : isSetup
        ? (pending.setup[held as SetupFigure] ?? p.body[held as SetupFigure])
        : null;
  const unit = held === "second" ? "s" : unitFor(tools, held, now);
  const text = held === "second" ? pending.second : (now?.text ?? "");
  const put = (t: string, u = unit) =>
    held === "second"
      ? p.onSecond(t)
      : held === "ohms"
        ? p.onOhms({ text: t, unit: u })
        : p.onSetup(held as SetupFigure, { text: t, unit: u });
  const rule = tools.rules[held];
  const top = p.answer?.findings[0];
  const problem = p.answer?.problems[0];
  const says = problem ? (
    <span className="v-act">{problem.message}</span>
  ) : top ? (
    <span>
      <strong className={`v-${top.verdict}`}>
        {top.title}: {top.verdict}.
      </strong>{" "}
      {top.reason}
    </span>
  ) : (
    <span className="mute">{rule?.label ?? "Second of the reading"}</span>
  );
  const units =
    held === "second"
      ? [{ code: "s", symbol: "s" }]
      : (rule?.units ?? []).map((u) => ({ code: u, symbol: tools.symbols[u] ?? u }));
  return (
    <Keypad
      left={p.left}
      says={says}
      unit={unit}
      units={units}
      last=""
      nextLabel={held === "ohms" ? "take it" : "next"}
      onKey={(k) => put(press(text, k))}
      onUnit={(u) => put(text, u)}
      onSame={() => undefined}
      onClear={p.onClose}
      onNext={p.onNext}
    />
  );
}
