/**
 * The alignment of a coupling, a whole visit: measures, what is looked at before, passes, shims, drawing up,
 * the coupling; then on record.
 */
import { useMemo, useState } from "react";
import { KeptLate, type Schemas } from "../../base";
import {
  Bench,
  NamedFigure,
  Note,
  Photo,
  PutOnRecord,
  Reason,
  Sending,
  useBench,
  useTools,
  Verdicts,
  type Given,
} from "../../safety";
import { Before } from "./Before";
import { ClockFace, StandHere } from "./clock";
import { CouplingFit } from "./CouplingFit";
import { Drawings } from "./Drawings";
import { Pick, Tick, type Visit } from "./fields";
import type { Body, Figure, Method, Stand } from "./logic";
import { PassStrip } from "./PassStrip";
import { PlanBoard } from "./PlanBoard";
import { SetSketch } from "./SetSketch";
import { Tighten } from "./Tighten";
import { useVisit } from "./visit";
import css from "./drawing.module.scss";

type View = Schemas["ShownAlignmentView"];
type Step = "set" | "before" | "read" | "plan" | "tighten" | "fit";
const STEPS: [Step, string][] = [
  ["set", "Dimensions"],
  ["before", "Pre-checks"],
  ["read", "Readings"],
  ["plan", "Shims"],
  ["tighten", "Tighten"],
  ["fit", "Coupling"],
];
const METHODS: [string, string][] = [
  ["straightedge", "straightedge and feeler gauge"],
  ["rim_face", "rim-and-face dials"],
  ["reverse", "reverse dials"],
  ["flange", "feeler gauge at the flange"],
  ["laser", "laser, figures entered by hand"],
];
const STAND = "hurbin-stand";

/** The vans that the stores added to the case, by name. */
const vansOf = (extras: Record<string, unknown> | undefined): string[] =>
  ((extras?.vans ?? []) as { name: string }[]).map((v) => v.name);

export function Drawing({ given }: { given: Given }) {
  const { mode, record } = given;
  const v = useVisit(given);
  const { body } = v;
  const method: Method = body.method ?? "straightedge";
  const [step, setStep] = useState<Step>("read");
  const [stand, setStand] = useState<Stand>(() => (localStorage.getItem(STAND) as Stand | null) ?? "behind");
  const place = (s: Stand) => {
    localStorage.setItem(STAND, s);
    setStand(s);
  };
  const tools = useBench<View>(given, {
    ...v.own,
    words: (name) => <StepWords method={method} name={name} />,
    first: () => setStep("read"),
    keys: STEPS.map(([s, words], i) => ({
      key: String(i + 1),
      does: words.toLowerCase(),
      run: () => setStep(s),
    })),
  });
  const { answer, held, may, narrow } = tools;
  const t: Visit = { body, change: v.change };
  const kept = useMemo(() => new Set(v.entries.map((e) => e.uuid)), [v.entries]);
  const wide = !narrow;
  const at = wide && step === "plan" ? "read" : step;
  const acts = may && mode !== "pencil";
  const drawings = (
    <Drawings
      method={method}
      answer={answer}
      stand={stand}
      held={narrow ? (held ?? "step_12") : null}
      wide={wide}
    />
  );
  const plan = answer?.view.plan && (answer.view.plan.choice || answer.view.plan.waits.length > 0) && (
    <PlanBoard
      plan={answer.view.plan}
      stand={stand}
      tries={v.tries}
      may={acts}
      pushed={
        <span className={css.dimrow}>
          <NamedFigure name="pushed_front" label="pushed right, front" />
          <NamedFigure name="pushed_rear" label="rear" />
        </span>
      }
      onTry={v.setTries}
      onLaid={(feet) => v.moved(Object.fromEntries(feet.map((f) => [`pack_${f.foot}`, f.pack])) as Body)}
    />
  );
  const passes = answer && (
    <PassStrip
      passes={answer.view.passes}
      kept={kept}
      onUndo={may && mode === "new" ? (uuid) => v.undo(uuid) : null}
    />
  );
  const saving = (
    <div className="savebar">
      {v.hasPass && may && mode === "new" && (
        <button className="btn-line" onClick={v.keepPass}>
          Save readings
        </button>
      )}
      <PutOnRecord />
    </div>
  );
  const aside = (
    <>
      <nav className={css.steps} aria-label="Steps">
        {STEPS.filter(([s]) => narrow || s !== "plan").map(([s, words]) => (
          <button
            key={s}
            className="linklike"
            aria-current={at === s ? "step" : undefined}
            onClick={() => setStep(s)}
          >
            {words}
          </button>
        ))}
      </nav>
      {wide && <StandHere stand={stand} onStand={place} />}
    </>
  );
  return (
    <Bench tools={tools} className={css.alignpage} aside={aside}>
      {v.others && <p className="notice">{v.others}</p>}
      {narrow && <div className={css.insight}>{drawings}</div>}
      {at === "set" && <SetSketch t={t} method={method} vans={vansOf(given.case.extras)} />}
      {at === "before" && <Before t={t} />}
      {at === "fit" && <CouplingFit t={t} />}
      {at === "tighten" && answer?.view.bolts && (
        <Tighten
          bolts={answer.view.bolts}
          may={acts}
          done={v.drawnUp}
          onDone={() => v.say({ kind: "tightened" })}
        />
      )}
      {at === "read" && <ReadSentence t={t} method={method} />}
      <div className={at === "read" ? css.alignbench : `${css.alignbench} ${css.aside}`}>
        {at === "read" && (
          <div className={css.reading}>
            {method === "laser" ? (
              <div className="setupfields">
                {LASER.map((n) => (
                  <NamedFigure key={n} name={n} />
                ))}
              </div>
            ) : (
              <ClockFace method={method} stand={stand} />
            )}
            {wide && held && <StepWords method={method} name={held} />}
            {narrow && <StandHere stand={stand} onStand={place} />}
            <div className="setupfields">
              {beside(method, narrow).map((n) => (
                <NamedFigure key={n} name={n} />
              ))}
            </div>
          </div>
        )}
        {wide && at === "read" && drawings}
        {narrow && at === "plan" && (
          <div>
            {plan || <p className="mute">The shim plan appears when readings are entered.</p>}
            {passes}
          </div>
        )}
        <div className={css.judgedcell}>
          {wide && saving}
          <Verdicts />
          <Reason />
          <Note />
          {v.entries.length > 0 && <Photo />}
          {narrow && saving}
          <Sending />
          <KeptLate sheet={v.late} />
        </div>
        {at === "read" && wide && (
          <div className={css.plancell}>
            {plan}
            {answer && answer.view.passes.length > 1 && passes}
          </div>
        )}
      </div>
      {record === null && v.entries.length > 0 && may && <Leaving onLeave={() => void v.leave()} />}
    </Bench>
  );
}
function ReadSentence({ t, method }: { t: Visit; method: Method }) {
  return (
    <div className="statesentence">
      <Pick
        t={t}
        name="taken"
        label="When"
        options={[
          ["as_found", "As found"],
          ["after_move", "After a move"],
          ["as_left", "As left"],
        ]}
      />
      ,{" "}
      <Pick
        t={t}
        name="temperature"
        label="The machines are"
        options={[
          ["cold", "cold"],
          ["hot", "hot"],
        ]}
      />
      , read with <Pick t={t} name="method" label="Read with" options={METHODS} />.
      {method === "rim_face" && (
        <>
          {" "}
          Rim dial mounted on the{" "}
          <Pick
            t={t}
            name="carried_by"
            label="The rim dial is carried by"
            options={[
              ["motor", "motor"],
              ["pump", "pump"],
            ]}
          />
          , face dial reads on the{" "}
          <Pick
            t={t}
            name="face_touches"
            label="The face dial touches"
            options={[
              ["front", "front of the hub"],
              ["back", "back of the hub"],
            ]}
          />
          .
        </>
      )}
      {t.body.taken === "as_left" && (
        <Tick t={t} name="tight">
          read after final tightening
        </Tick>
      )}
    </div>
  );
}
const LASER: Figure[] = ["offset_v", "angle_v", "offset_h", "angle_h"];
/** The figures that stand beside the clock, by instrument; on a phone those of the drawing as well. */
function beside(method: Method, narrow: boolean): Figure[] {
  const out: Figure[] = [];
  if (method === "rim_face" || method === "reverse") out.push("sag");
  if (method === "reverse") out.push("plane_distance");
  if (method === "flange") out.push("support_distance", "nut_pitch");
  if (narrow || method === "flange") out.push("face_diameter");
  if (narrow && method !== "flange") out.push("x_front", "x_rear", "speed");
  return out;
}
/** A step of the rim can be said in words. */
function StepWords({ method, name }: { method: Method; name: string }) {
  const { type } = useTools();
  if (method !== "straightedge" || !name.startsWith("step_")) return null;
  return (
    <p className={css.words} role="group" aria-label="Quick entries">
      {["flush", "a hair high", "a hair low"].map((w) => (
        <button
          key={w}
          className="btn-line"
          onPointerDown={(e) => e.preventDefault()}
          onClick={() => type(name, w)}
        >
          {w}
        </button>
      ))}
    </p>
  );
}
function Leaving({ onLeave }: { onLeave: () => void }) {
  const { reason } = useTools();
  return (
    <details className="spared">
      <summary>Close without record</summary>
      <div className="noteline">
        <div className="field">
          <label htmlFor="left">Reason</label>
          <input id="left" value={reason.value} onChange={(e) => reason.set(e.target.value)} />
        </div>
        <button className="btn-line" onClick={onLeave}>
          Cancel
        </button>
      </div>
    </details>
  );
}
