/** The alignment of a coupling: readings at the clock, both shafts drawn while typing, what each foot asks for, then on record. */
import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { useNavigate, useParams, useSearchParams } from "react-router";
import {
  Complaint, enteredFields, Keypad, outbox, press, Ready, useDraft, useEvaluation, useGet, useKeys, useMe, useNarrow, useSchema, useSession, useSymbols, type EnteredRule, type Schemas, type Shown,
} from "../base";
import { Judged, useRecord } from "../logbook";
import { useSet, type SetOut } from "../plant";
import { Gate } from "../safety";
import { ClockFace, ShaftDrawing } from "./drawings";
import { carried, hasFigures, order, type Body, type Figure, type Method } from "./logic";

type Mode = "new" | "correct" | "pencil";
interface Draft {
  sheet: string;
  entry: string;
  body: Body;
  begun: string;
  reason: string;
}
const EPOCH = "2000-01-01T00:00:00Z";
const fresh = (body: Body): Draft => ({ sheet: crypto.randomUUID(), entry: crypto.randomUUID(), body, begun: "", reason: "" });

export function AlignmentPage() {
  const id = Number(useParams().setId);
  const [search] = useSearchParams();
  const recordId = search.get("record") ? Number(search.get("record")) : null;
  const mode = (search.get("mode") ?? "new") as Mode;
  const set = useSet(id);
  const schema = useSchema("/api/benches/alignment/schema");
  const context = useGet("/api/benches/alignment/context/{set_id}", { set_id: id });
  const record = useRecord(recordId);
  return (
    <Ready query={set} what="Fetching the set">
      {(s) => <Ready query={schema}>{(sch) => <Ready query={context}>{(c) =>
        recordId === null ? <Gate setId={s.id} act="hands_on_coupling" what="Work at the coupling" seen="It was read all the same: write it down">{() => <Sheet key="new" set={s} rules={enteredFields(sch)} start={carried(c.last?.body)} mode="new" record={null} />}</Gate>
          : <Ready query={record}>{(r) => <Sheet key={`${mode}${r.id}`} set={s} rules={enteredFields(sch)} start={r.body as Body} mode={mode} record={r} />}</Ready>}</Ready>}</Ready>}
    </Ready>
  );
}

function Sheet({ set, rules, start, mode, record }: { set: SetOut; rules: Record<string, EnteredRule>; start: Body; mode: Mode; record: Schemas["RecordOut"] | null }) {
  const me = useMe();
  const { now } = useSession();
  const symbols = useSymbols();
  const narrow = useNarrow();
  const go = useNavigate();
  const client = useQueryClient();
  const [begin] = useState(() => ({ ...fresh(start), begun: record?.taken_at ?? "" }));
  const draft = useDraft<Draft>(`${me.username}:${set.id}:alignment:${mode}${record?.id ?? ""}`, begin);
  const { body } = draft.value;
  const method: Method = body.method ?? "straightedge";
  const [held, setHeld] = useState<Figure | null>(null);
  const [refusal, setRefusal] = useState<unknown>(null);
  const [sending, setSending] = useState(false);
  const entry = { uuid: draft.value.entry, taken_at: draft.value.begun || EPOCH, device: "browser", body };
  const { answer, before, error, ask } = useEvaluation("alignment", { set_id: set.id, corrects: record?.id ?? null, entries: [entry] });
  const change = (next: Body) => draft.change((d) => ({ ...d, body: { ...d.body, ...next }, begun: d.begun || now().toISOString() }));
  const unitOf = (name: Figure) => body[name]?.unit || me.units[rules[name]?.dimension ?? ""] || rules[name]?.unit || "";
  const type = (name: Figure, text: string, unit = unitOf(name)) => change({ [name]: text ? { text, unit } : null });
  const fields = order(method);
  const next = (name: Figure) => fields[(fields.indexOf(name) + 1) % fields.length] ?? name;
  const focus = (name: Figure) => document.getElementById(`a-${name}`)?.focus();
  const writes = mode !== "pencil" && set.may !== "viewer";
  const save = async () => {
    if (!writes || sending || !hasFigures(body)) return;
    setSending(true);
    setRefusal(null);
    const d = draft.value;
    const request = { set_id: set.id, sheet: d.sheet, corrects: record?.id ?? null, reason: d.reason, seen: answer && !before ? answer.verdict : null, entries: [{ ...entry, taken_at: d.begun || now().toISOString() }] };
    try {
      await outbox.write("POST", "/api/benches/alignment/records", request, `${set.tag} alignment`, d.sheet);
      draft.done(fresh(carried(body as Record<string, unknown>)));
      await client.invalidateQueries();
      void go(`/sets/${set.id}`);
    } catch (e) {
      setRefusal(e);
      setSending(false);
    }
  };
  useKeys([{ key: "Enter", ctrl: true, does: "put on record", run: () => void save() }, { key: "e", does: "enter the first figure", run: () => focus(fields[0]!) }]);
  useEffect(() => { if (held && narrow) document.getElementById(`a-${held}`)?.scrollIntoView({ block: "center" }); }, [held, narrow]);
  const problem = (name: string) => answer?.problems.find((p) => p.field === name);
  const input = (name: Figure, label: string, big = false) => (
    <span className={problem(name) ? "setupfield refused" : "setupfield"}>
      <input id={`a-${name}`} className={big ? "mono big" : "mono"} aria-label={rules[name]?.label ?? label} aria-invalid={Boolean(problem(name))} autoComplete="off" inputMode={narrow ? "none" : "text"} value={body[name]?.text ?? ""}
        onFocus={() => setHeld(name)} onChange={(e) => type(name, e.target.value)} onKeyDown={(e) => { if (e.key === "Enter" && !e.ctrlKey) { e.preventDefault(); focus(next(name)); } }} />
      {rules[name] && rules[name].units.length > 1 && <select className="inline-select unit" aria-label={`${rules[name].label}, unit`} value={unitOf(name)} onChange={(e) => type(name, body[name]?.text ?? "", e.target.value)}>{rules[name].units.map((u) => <option key={u} value={u}>{symbols[u] ?? u}</option>)}</select>}
    </span>
  );
  const labelled = (name: Figure) => <span className="dimfield" key={name}><label htmlFor={`a-${name}`}>{rules[name]?.label.toLowerCase()}</label>{input(name, "")}</span>;
  const pick = <K extends "method" | "taken" | "temperature" | "carried_by" | "face_touches" | "pump_metal" | "motor_metal">(name: K, label: string, options: [string, string][]) => (
    <select className="inline-select" aria-label={label} value={(body[name] as string | undefined) ?? options[0]?.[0]} onChange={(e) => change({ [name]: e.target.value || null } as Body)}>{options.map(([v, w]) => <option key={v} value={v}>{w}</option>)}</select>
  );
  const metals: [string, string][] = [["", "say of what"], ["cast_iron", "cast iron"], ["carbon_steel", "carbon steel"], ["stainless_304", "stainless 304"], ["stainless_316", "stainless 316"], ["aluminium", "aluminium"]];
  const [side, top] = answer?.shafts ?? [];
  const isStep = held?.startsWith("step_") ?? false;
  return (
    <div className={narrow && held ? "haskeypad" : ""}>
      <h1><span className="mono">{set.tag}</span> <span style={{ fontWeight: 400 }}>{{ new: "Alignment", correct: "Correct an alignment", pencil: "In pencil: nothing is saved" }[mode]}</span></h1>
      {answer && answer.cautions.length > 0 && <div className="cautions" role="note" aria-label="Cautions">{answer.cautions.map((c) => <p key={c}>{c}</p>)}</div>}
      <div className="statesentence">
        {pick("taken", "When", [["as_found", "As found"], ["after_move", "After a move"], ["as_left", "As left"]])}, read with {pick("method", "Read with", [["straightedge", "straightedge and feeler"], ["rim_face", "rim and face dials"], ["reverse", "reverse dials"], ["laser", "a laser, its figures typed"]])}, {pick("temperature", "The machines are", [["cold", "cold"], ["hot", "hot"]])}.
        {method === "rim_face" && <> The rim dial is carried by the {pick("carried_by", "The rim dial is carried by", [["motor", "motor"], ["pump", "pump"]])}, the face dial touches the {pick("face_touches", "The face dial touches", [["front", "front of the hub"], ["back", "back of the hub"]])}.</>}
        {body.taken === "as_left" && <label className="confirm"><input type="checkbox" checked={body.tight === true} onChange={(e) => change({ tight: e.target.checked })} /> read after the last tightening</label>}
      </div>
      <div className="alignbench">
        <div>
          {method === "laser" ? <div className="setupfields">{(["offset_v", "angle_v", "offset_h", "angle_h"] as Figure[]).map(labelled)}</div> : <ClockFace method={method} field={(name, label, big) => input(name, label, big)} />}
          {method === "straightedge" && <p className="words" role="group" aria-label="Words for a step">{["flush", "a hair high", "a hair low"].map((w) => <button key={w} className="btn-line" disabled={!isStep} onPointerDown={(e) => e.preventDefault()} onClick={() => held && type(held, w)}>{w}</button>)}</p>}
          <div className="setupfields">{(["face_diameter", ...(method === "reverse" ? ["plane_distance"] : []), ...(method === "rim_face" || method === "reverse" ? ["sag"] : [])] as Figure[]).map(labelled)}</div>
        </div>
        <div>
          {side && <ShaftDrawing shaft={side} title="From the side" ask="up" />}
          <div className="dimline" aria-label="Distances">{(["x_front", "x_rear"] as Figure[]).map(labelled)}{labelled("speed")}</div>
          {top && <ShaftDrawing shaft={top} title="From above" ask="right" />}
          <Feet answer={answer} />
        </div>
        <div>
          {answer && answer.problems.length > 0 && <div className="notice bad" role="alert" data-testid="problems">{answer.problems.map((p) => <div key={p.field + p.code}>{p.message}</div>)}</div>}
          {answer && <Judged answer={answer} before={before} />}
          {answer && answer.missing.length > 0 && <ul className="notes mute" aria-label="Still missing">{answer.missing.map((m) => <li key={m.field}>{m.message}</li>)}</ul>}
          {error && <p className="mute">No verdict for these figures yet: {error.message} {error.again ? "" : <button className="linklike" onClick={ask}>ask again</button>}</p>}
          <details className="spared"><summary>Growth, and what the coupling tolerates</summary>
            <div className="setupfields">{(["cold", "pump_height", "pump_temperature", "motor_height", "motor_temperature", "maker_offset", "maker_angle"] as Figure[]).map(labelled)}</div>
            <p className="statesentence">The pump is of {pick("pump_metal", "Pump of", metals)}, the motor of {pick("motor_metal", "Motor of", metals)}.</p>
          </details>
          {mode === "correct" && <div className="field"><label htmlFor="a-reason">What was wrong</label><input id="a-reason" value={draft.value.reason} onFocus={() => setHeld(null)} onChange={(e) => draft.change((d) => ({ ...d, reason: e.target.value }))} /></div>}
          <div className="field"><label htmlFor="a-note">Note</label><input id="a-note" maxLength={500} value={body.note ?? ""} onFocus={() => setHeld(null)} onChange={(e) => change({ note: e.target.value })} /></div>
          <div className="savebar">{writes && <button className="btn-ink" disabled={sending || !hasFigures(body)} onClick={() => void save()}>{mode === "correct" ? "Put the correction on record" : "Put on record"}</button>}</div>
          {sending && <p role="status">Kept on this device; sending…</p>}
          <Complaint error={refusal} />
        </div>
      </div>
      {narrow && held && (
        <Keypad left={me.hand === "left"} says={<Says answer={answer} label={rules[held]?.label ?? ""} />} unit={unitOf(held)} units={(rules[held]?.units ?? []).map((u) => ({ code: u, symbol: symbols[u] ?? u }))} last=""
          nextLabel="next" onKey={(k) => type(held, press(body[held]?.text ?? "", k))} onUnit={(u) => type(held, body[held]?.text ?? "", u)} onSame={() => undefined} onClear={() => { setHeld(null); (document.activeElement as HTMLElement | null)?.blur(); }} onNext={() => focus(next(held))} />
      )}
    </div>
  );
}
function Says({ answer, label }: { answer: Shown | null; label: string }) {
  const problem = answer?.problems[0];
  const top = answer?.findings[0];
  if (problem) return <span className="v-act">{problem.message}</span>;
  return top ? <span><strong className={`v-${top.verdict}`}>{top.title}: {top.verdict}.</strong> {top.reason}</span> : <span className="mute">{label}</span>;
}
const FEET: [string, string][] = [["front_v", "both front feet, up"], ["rear_v", "both rear feet, up"], ["front_h", "front, push right"], ["rear_h", "rear, push right"]];
/** Large enough to be read from the floor. */
function Feet({ answer }: { answer: Shown | null }) {
  const rows = FEET.filter(([k]) => answer?.values[k]);
  if (!answer || rows.length === 0) return null;
  return <dl className="feet" aria-label="What each foot asks for">{rows.map(([k, label]) => <div key={k}><dt>{label}</dt><dd className="mono" data-value={k}>{answer.values[k]?.shown}</dd></div>)}</dl>;
}
