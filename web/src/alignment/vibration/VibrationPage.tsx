/** Vibration, bearing by bearing: three directions at each of four bearings, typed where they are felt. */
import { useEffect, useState } from "react";
import {
  Complaint,
  enteredFields,
  Keypad,
  press,
  Ready,
  useDraft,
  useEvaluation,
  useGet,
  useKeys,
  useMe,
  useNarrow,
  useSchema,
  useSession,
  useSymbols,
  type EnteredRule,
  type Schemas,
} from "../../base";
import { AddPicture, Judged, useBenchPage, useSaving, type Mode } from "../../logbook";
import { useSet, type SetOut } from "../../plant";
import { NotToBeStarted } from "../../safety";

type Body = Partial<Schemas["VibrationEntry"]>;
type Figure = Exclude<
  { [K in keyof Body]: NonNullable<Body[K]> extends Schemas["Entered"] ? K : never }[keyof Body],
  undefined
>;
const BEARINGS: [string, string, number][] = [
  ["pump_far", "far end", 8],
  ["pump_near", "coupling end", 35],
  ["motor_near", "coupling end", 58],
  ["motor_far", "far end", 92],
];
const WAYS: [string, string][] = [
  ["h", "side"],
  ["v", "up"],
  ["a", "along"],
];
const ORDER = BEARINGS.flatMap(([b]) => WAYS.map(([w]) => `${b}_${w}` as Figure));
interface Draft {
  sheet: string;
  entry: string;
  body: Body;
  begun: string;
  reason: string;
}
const fresh = (body: Body): Draft => ({
  sheet: crypto.randomUUID(),
  entry: crypto.randomUUID(),
  body,
  begun: "",
  reason: "",
});
const ofTheSet = (last: Record<string, unknown> | undefined): Body =>
  Object.fromEntries(
    ["category", "foundation", "power"].filter((n) => last?.[n] != null).map((n) => [n, last?.[n]]),
  ) as Body;

export function VibrationPage() {
  const { id, recordId, mode, record } = useBenchPage();
  const set = useSet(id);
  const schema = useSchema("/api/v1/benches/vibration/schema");
  const context = useGet("/api/v1/benches/vibration/case/{set_id}", { set_id: id });
  return (
    <Ready query={set} what="Fetching the set">
      {(s) => (
        <Ready query={schema}>
          {(sch) => (
            <Ready query={context}>
              {(c) =>
                recordId === null ? (
                  <Round
                    key="new"
                    set={s}
                    rules={enteredFields(sch)}
                    start={ofTheSet(c.context.last?.body)}
                    mode="new"
                    record={null}
                  />
                ) : (
                  <Ready query={record}>
                    {(r) => (
                      <Round
                        key={`${mode}${r.id}`}
                        set={s}
                        rules={enteredFields(sch)}
                        start={r.body as Body}
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
function Round({
  set,
  rules,
  start,
  mode,
  record,
}: {
  set: SetOut;
  rules: Record<string, EnteredRule>;
  start: Body;
  mode: Mode;
  record: Schemas["RecordOut"] | null;
}) {
  const me = useMe();
  const { now } = useSession();
  const symbols = useSymbols();
  const narrow = useNarrow();
  const [begin] = useState(() => ({ ...fresh(start), begun: record?.taken_at ?? "" }));
  const draft = useDraft<Draft>(`${me.username}:${set.id}:vibration:${mode}${record?.id ?? ""}`, begin);
  const { body } = draft.value;
  const [held, setHeld] = useState<Figure | null>(null);
  const saving = useSaving(set.id);
  // Nothing typed yet: it would be of the moment this page was opened.
  const [opened] = useState(() => now().toISOString());
  const entry = { uuid: draft.value.entry, taken_at: draft.value.begun || opened, device: "browser", body };
  const { answer, before, error, ask } = useEvaluation("vibration", {
    set_id: set.id,
    corrects: record?.id ?? null,
    entries: [entry],
  });
  const change = (next: Body) =>
    draft.change((d) => ({ ...d, body: { ...d.body, ...next }, begun: d.begun || now().toISOString() }));
  const unitOf = (name: Figure) =>
    body[name]?.unit || me.units[rules[name]?.dimension ?? ""] || rules[name]?.unit || "";
  const type = (name: Figure, text: string, unit = unitOf(name)) =>
    change({ [name]: text ? { text, unit } : null });
  const next = (name: Figure) => ORDER[(ORDER.indexOf(name) + 1) % ORDER.length] ?? name;
  const focus = (name: Figure) => document.getElementById(`v-${name}`)?.focus();
  const writes = mode !== "pencil" && set.may !== "viewer";
  const any = ORDER.some((n) => body[n]?.text.trim());
  const save = async () => {
    if (!writes || !any) return;
    const d = draft.value;
    const request = {
      set_id: set.id,
      sheet: d.sheet,
      corrects: record?.id ?? null,
      reason: d.reason,
      seen: answer && !before ? answer.verdict : null,
      entries: [{ ...entry, taken_at: d.begun || now().toISOString() }],
    };
    await saving.put("vibration", request, `${set.tag} vibration`, d.sheet, () =>
      draft.done(fresh(ofTheSet(body as Record<string, unknown>))),
    );
  };
  useKeys([
    { key: "Enter", ctrl: true, does: "put on record", run: () => void save() },
    { key: "e", does: "enter the first figure", run: () => focus(ORDER[0]!) },
  ]);
  useEffect(() => {
    if (held && narrow) document.getElementById(`v-${held}`)?.scrollIntoView({ block: "center" });
  }, [held, narrow]);
  const choose = <K extends "when" | "category" | "foundation">(
    name: K,
    label: string,
    options: [string, string][],
  ) => (
    <select
      className="inline-select"
      aria-label={label}
      value={(body[name] as string | undefined) ?? options[0]?.[0]}
      onChange={(e) => change({ [name]: e.target.value || null } as Body)}
    >
      {options.map(([v, w]) => (
        <option key={v} value={v}>
          {w}
        </option>
      ))}
    </select>
  );
  const field = (name: Figure) => {
    const refused = Boolean(answer?.problems.some((p) => p.field === name));
    const ghost = answer?.ghosts.find((g) => g.field === name);
    return (
      <span className={refused ? "setupfield refused" : "setupfield"}>
        <input
          id={`v-${name}`}
          className="mono"
          aria-label={rules[name]?.label ?? name}
          aria-invalid={refused}
          autoComplete="off"
          inputMode={narrow ? "none" : "text"}
          readOnly={set.may === "viewer" && mode !== "pencil"}
          value={body[name]?.text ?? ""}
          onFocus={() => setHeld(name)}
          onChange={(e) => type(name, e.target.value)}
          onKeyDown={(e) => {
            if (e.key === "Enter" && !e.ctrlKey) {
              e.preventDefault();
              focus(next(name));
            }
          }}
        />
        {ghost && <span className="ghost mono">{ghost.text}</span>}
      </span>
    );
  };
  return (
    <div className={narrow && held ? "haskeypad" : ""}>
      <h1>
        <span className="mono">{set.tag}</span>{" "}
        <span style={{ fontWeight: 400 }}>
          {
            { new: "Vibration", correct: "Correct a vibration round", pencil: "In pencil: nothing is saved" }[
              mode
            ]
          }
        </span>
      </h1>
      {mode === "new" && <NotToBeStarted set={set} />}
      <p className="statesentence">
        {choose("when", "When", [
          ["round", "A round"],
          ["before", "Before the work"],
          ["after", "After the work"],
        ])}
        , the set on a{" "}
        {choose("foundation", "Foundation", [
          ["", "say what"],
          ["rigid", "rigid"],
          ["flexible", "flexible"],
        ])}{" "}
        foundation, the pump of category{" "}
        {choose("category", "Pump’s category", [
          ["", "say which"],
          ["one", "I"],
          ["two", "II"],
        ])}
        , the motor of{" "}
        <span className="inline">
          <input
            id="v-power"
            className="mono"
            aria-label="Motor’s power"
            placeholder="plate"
            value={body.power?.text ?? ""}
            onFocus={() => setHeld("power")}
            onChange={(e) => type("power", e.target.value)}
          />
        </span>{" "}
        {symbols[unitOf("power")] ?? unitOf("power")}.
      </p>
      <div className="shaking">
        <svg viewBox="0 0 900 150" aria-hidden="true">
          <path className="centre" d="M10 80H890" />
          <path
            className="thing"
            d="M60 40H290L320 60V100L290 120H60zM320 72H380M320 88H380M380 50H398V110H380zM410 50H428V110H410zM428 72H480M428 88H480M480 34H850V126H480z"
          />
          {BEARINGS.map(([b, , x]) => (
            <path key={b} className="bearing" d={`M${x * 9 - 12} 66H${x * 9 + 12}V94H${x * 9 - 12}z`} />
          ))}
          <text x={190} y={84} textAnchor="middle">
            pump
          </text>
          <text x={665} y={84} textAnchor="middle">
            motor
          </text>
        </svg>
        <div className="bearings">
          {BEARINGS.map(([b, words], i) => (
            <fieldset key={b}>
              <legend>
                {i < 2 ? "pump" : "motor"}, {words}
              </legend>
              {WAYS.map(([w, way]) => (
                <span key={w} className="dimfield">
                  <label htmlFor={`v-${b}_${w}`}>{way}</label>
                  {field(`${b}_${w}` as Figure)}
                </span>
              ))}
            </fieldset>
          ))}
        </div>
        <p className="mute">
          Overall velocity, r.m.s., {symbols[unitOf("pump_near_h")] ?? "mm/s"}, 10 to 1000 Hz, running as it
          runs.
        </p>
      </div>
      {answer && answer.problems.length > 0 && (
        <div className="notice bad" role="alert" data-testid="problems">
          {answer.problems.map((p) => (
            <div key={p.field + p.code}>{p.message}</div>
          ))}
        </div>
      )}
      {answer && <Judged answer={answer} before={before} />}
      {answer && answer.missing.length > 0 && (
        <ul className="notes mute" aria-label="Still missing">
          {answer.missing.map((m) => (
            <li key={m.field}>{m.message}</li>
          ))}
        </ul>
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
      {mode === "correct" && (
        <div className="field">
          <label htmlFor="v-reason">What was wrong</label>
          <input
            id="v-reason"
            value={draft.value.reason}
            onFocus={() => setHeld(null)}
            onChange={(e) => draft.change((d) => ({ ...d, reason: e.target.value }))}
          />
        </div>
      )}
      <div className="field">
        <label htmlFor="v-note">Note</label>
        <input
          id="v-note"
          maxLength={500}
          value={body.note ?? ""}
          onFocus={() => setHeld(null)}
          onChange={(e) => change({ note: e.target.value })}
        />
      </div>
      {mode === "new" && set.may !== "viewer" && (
        <AddPicture setId={set.id} tag={set.tag} entry={draft.value.entry} />
      )}
      <div className="savebar">
        {writes && (
          <button className="btn-ink" disabled={saving.sending || !any} onClick={() => void save()}>
            {mode === "correct" ? "Put the correction on record" : "Put on record"}
          </button>
        )}
      </div>
      {saving.sending && <p role="status">Kept on this device; sending…</p>}
      <Complaint error={saving.refusal} />
      {narrow && held && (
        <Keypad
          left={me.hand === "left"}
          says={<span className="mute">{rules[held]?.label}</span>}
          unit={unitOf(held)}
          units={(rules[held]?.units ?? []).map((u) => ({ code: u, symbol: symbols[u] ?? u }))}
          last=""
          nextLabel="next"
          onKey={(k) => type(held, press(body[held]?.text ?? "", k))}
          onUnit={(u) => type(held, body[held]?.text ?? "", u)}
          onSame={() => undefined}
          onClear={() => {
            setHeld(null);
            (document.activeElement as HTMLElement | null)?.blur();
          }}
          onNext={() => focus(next(held))}
        />
      )}
    </div>
  );
}
