/** The bench itself: what is typed and not kept yet, what is kept, the answer of the core to both, and the steps of the work. */
import { useEffect, useMemo, useState } from "react";
import {
  Complaint,
  KeptLate,
  Keypad,
  press,
  useKeys,
  useMe,
  useNarrow,
  useSymbols,
  type Shown,
} from "../../base";
import { AddPicture, Judged } from "../../logbook";
import type { SheetProps } from "./AlignmentPage";
import { Before } from "./Before";
import { ClockFace, StandHere } from "./clock";
import { CouplingFit } from "./CouplingFit";
import { Field, Labelled, Pick, Tick, type Tools } from "./fields";
import { order, type Body, type Figure, type Method, type Stand } from "./logic";
import { PassStrip } from "./PassStrip";
import { PlanBoard } from "./PlanBoard";
import { SetSketch } from "./SetSketch";
import { FlangeDrawing, ShaftDrawing } from "./shafts";
import { Tighten } from "./Tighten";
import { useVisit } from "./visit";

type Step = "set" | "before" | "read" | "plan" | "tighten" | "fit";
const STEPS: [Step, string][] = [
  ["set", "The set"],
  ["before", "Before"],
  ["read", "Read"],
  ["plan", "Shims"],
  ["tighten", "Draw up"],
  ["fit", "Coupling"],
];
const METHODS: [string, string][] = [
  ["straightedge", "straightedge and feeler"],
  ["rim_face", "rim and face dials"],
  ["reverse", "reverse dials"],
  ["flange", "feelers at the flange"],
  ["laser", "a laser, its figures typed"],
];
const STAND = "hurbin-stand";

export function Bench(props: SheetProps) {
  const { set, rules, vans, mode, record } = props;
  const me = useMe();
  const symbols = useSymbols();
  const narrow = useNarrow();
  const v = useVisit(props);
  const { body, answer } = v;
  const method: Method = body.method ?? "straightedge";
  const [step, setStep] = useState<Step>("read");
  const [stand, setStand] = useState<Stand>(() => (localStorage.getItem(STAND) as Stand | null) ?? "behind");
  const [holding, setHolding] = useState<Figure | null>(null);
  const may = set.may !== "viewer" || mode === "pencil";
  const fields = order(method);
  const next = (name: Figure) => fields[(fields.indexOf(name) + 1) % fields.length] ?? name;
  const focus = (name: Figure) => document.getElementById(`a-${name}`)?.focus();
  const t: Tools = {
    rules,
    symbols,
    answer,
    narrow,
    may,
    body,
    unitOf: v.unitOf,
    type: v.type,
    change: v.change,
    hold: setHolding,
    next: (name) => focus(next(name)),
  };
  const place = (s: Stand) => {
    localStorage.setItem(STAND, s);
    setStand(s);
  };
  useKeys([
    { key: "Enter", ctrl: true, does: "put on record", run: () => void v.save() },
    {
      key: "e",
      does: "enter the first figure",
      run: () => {
        setStep("read");
        setTimeout(() => focus(fields[0]!));
      },
    },
    ...STEPS.map(([s, words], i) => ({
      key: String(i + 1),
      does: words.toLowerCase(),
      run: () => setStep(s),
    })),
  ]);
  useEffect(() => {
    if (holding && narrow) document.getElementById(`a-${holding}`)?.scrollIntoView({ block: "center" });
  }, [holding, narrow]);
  const kept = useMemo(() => new Set(v.entries.map((e) => e.uuid)), [v.entries]);
  const [side, top] = answer?.view.shafts ?? [];
  const wide = !narrow;
  const at = wide && step === "plan" ? "read" : step;
  const turned = stand === "right";
  const values = answer?.values ?? {};
  // On a phone the plane that is being read, both when nothing is held.
  const only = narrow && holding ? (/_(3|9)$|_h$/.test(holding) ? "top" : "side") : "both";
  const drawings =
    method === "flange" ? (
      <FlangeDrawing values={values} />
    ) : (
      <div className="drawings">
        {side && only !== "top" && (
          <ShaftDrawing
            shaft={side}
            title="From the side"
            ask="up"
            turned={turned}
            says={values.angle_v ? `${values.offset_v?.shown ?? ""} · ${values.angle_v.shown}` : ""}
          >
            {wide && (
              <div className="dimrow">
                {(["face_diameter", "x_front", "x_rear"] as Figure[]).map((n) => (
                  <Labelled
                    key={n}
                    t={t}
                    name={n}
                    label={
                      {
                        face_diameter: "over the faces",
                        x_front: "to the front feet",
                        x_rear: "to the rear feet",
                      }[n as string]
                    }
                  />
                ))}
              </div>
            )}
          </ShaftDrawing>
        )}
        {top && only !== "side" && (
          <ShaftDrawing
            shaft={top}
            title="From above"
            ask="right"
            turned={turned}
            over={turned}
            says={values.angle_h ? `${values.offset_h?.shown ?? ""} · ${values.angle_h.shown}` : ""}
          />
        )}
      </div>
    );
  const words = method === "straightedge" && holding?.startsWith("step_") && (
    <p className="words" role="group" aria-label="Words for a step">
      {["flush", "a hair high", "a hair low"].map((w) => (
        <button
          key={w}
          className="btn-line"
          onPointerDown={(e) => e.preventDefault()}
          onClick={() => holding && v.type(holding, w)}
        >
          {w}
        </button>
      ))}
    </p>
  );
  const saving = (
    <div className="savebar">
      {v.hasPass && may && mode === "new" && (
        <button className="btn-line" onClick={() => void v.keepPass()}>
          Keep the pass
        </button>
      )}
      {v.writes && (
        <button className="btn-ink" disabled={v.sending || !v.any} onClick={() => void v.save()}>
          {mode === "correct" ? "Put the correction on record" : "Put on record"}
        </button>
      )}
    </div>
  );
  const plan = answer?.view.plan && (answer.view.plan.choice || answer.view.plan.waits.length > 0) && (
    <PlanBoard
      plan={answer.view.plan}
      stand={stand}
      tries={v.tries}
      may={may && mode !== "pencil"}
      pushed={
        <span className="dimrow">
          <Labelled t={t} name="pushed_front" label="pushed right, front" />
          <Labelled t={t} name="pushed_rear" label="rear" />
        </span>
      }
      onTry={v.setTries}
      onLaid={(feet) => void v.moved(Object.fromEntries(feet.map((f) => [`pack_${f.foot}`, f.pack])) as Body)}
    />
  );
  return (
    <div className={narrow && holding ? "haskeypad alignpage" : "alignpage"}>
      <div className="alignhead">
        <h1>
          <span className="mono">{set.tag}</span>{" "}
          <span style={{ fontWeight: 400 }}>
            {
              { new: "Alignment", correct: "Correct an alignment", pencil: "In pencil: nothing is saved" }[
                mode
              ]
            }
          </span>
        </h1>
        <nav className="steps" aria-label="Steps">
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
      </div>
      {answer && answer.cautions.length > 0 && (
        <div className="cautions" role="note" aria-label="Cautions">
          {answer.cautions.map((c) => (
            <p key={c}>{c}</p>
          ))}
        </div>
      )}
      {v.others && <p className="notice">{v.others}</p>}
      {narrow && <div className="insight">{drawings}</div>}
      {at === "set" && <SetSketch t={t} method={method} vans={vans} />}
      {at === "before" && <Before t={t} />}
      {at === "fit" && <CouplingFit t={t} />}
      {at === "tighten" && answer?.view.bolts && (
        <Tighten
          bolts={answer.view.bolts}
          may={may && mode !== "pencil"}
          done={v.drawnUp}
          onDone={() => void v.say({ kind: "tightened" })}
        />
      )}
      {at === "read" && <ReadSentence t={t} method={method} />}
      <div className={at === "read" ? "alignbench" : "alignbench aside"}>
        {at === "read" && (
          <div className="reading">
            {method === "laser" ? (
              <div className="setupfields">
                {(["offset_v", "angle_v", "offset_h", "angle_h"] as Figure[]).map((n) => (
                  <Labelled key={n} t={t} name={n} />
                ))}
              </div>
            ) : (
              <ClockFace
                method={method}
                stand={stand}
                field={(name, label, big) => (
                  <Field t={t} name={name} label={rules[name]?.label ?? label} big={big} />
                )}
              />
            )}
            {wide && words}
            {narrow && <StandHere stand={stand} onStand={place} />}
            <div className="setupfields">
              {(["rim_face", "reverse"].includes(method)
                ? (["sag", ...(method === "reverse" ? ["plane_distance"] : [])] as Figure[])
                : []
              )
                .concat(method === "flange" ? ["support_distance", "nut_pitch"] : [])
                .concat(narrow || method === "flange" ? ["face_diameter"] : [])
                .concat(narrow && method !== "flange" ? ["x_front", "x_rear", "speed"] : [])
                .map((n) => (
                  <Labelled key={n} t={t} name={n} />
                ))}
            </div>
          </div>
        )}
        {wide && at === "read" && drawings}
        {narrow && at === "plan" && (
          <div>
            {plan || <p className="mute">The plan comes with the readings.</p>}
            {answer && (
              <PassStrip
                passes={answer.view.passes}
                kept={kept}
                onUndo={may && mode === "new" ? (uuid) => void v.undo(uuid) : null}
              />
            )}
          </div>
        )}
        <div className="judgedcell">
          {wide && saving}
          {answer && answer.problems.length > 0 && (
            <div className="notice bad" role="alert" data-testid="problems">
              {answer.problems.map((p) => (
                <div key={p.field + p.code}>{p.message}</div>
              ))}
            </div>
          )}
          {answer && <Judged answer={answer} before={v.before} />}
          {answer && answer.missing.length > 0 && (
            <ul className="notes mute" aria-label="Still missing">
              {answer.missing.map((m) => (
                <li key={m.field + m.message}>{m.message}</li>
              ))}
            </ul>
          )}
          {v.error && (
            <p className="mute">
              No verdict for these figures yet: {v.error.message}{" "}
              {v.error.again ? (
                ""
              ) : (
                <button className="linklike" onClick={v.ask}>
                  ask again
                </button>
              )}
            </p>
          )}
          {mode === "correct" && (
            <div className="field">
              <label htmlFor="a-reason">What was wrong</label>
              <input
                id="a-reason"
                value={v.reason}
                onFocus={() => setHolding(null)}
                onChange={(e) => v.setReason(e.target.value)}
              />
            </div>
          )}
          <div className="field">
            <label htmlFor="a-note">Note</label>
            <input
              id="a-note"
              maxLength={500}
              readOnly={!may}
              value={body.note ?? ""}
              onFocus={() => setHolding(null)}
              onChange={(e) => v.change({ note: e.target.value })}
            />
          </div>
          {mode === "new" && may && v.entries.length > 0 && (
            <AddPicture setId={set.id} tag={set.tag} entry={v.entries.at(-1)?.uuid ?? ""} />
          )}
          {narrow && saving}
          {v.sending && <p role="status">Kept on this device; sending…</p>}
          <Complaint error={v.refusal} />
          <KeptLate sheet={v.late} />
        </div>
        {at === "read" && wide && (
          <div className="plancell">
            {plan}
            {answer && answer.view.passes.length > 1 && (
              <PassStrip
                passes={answer.view.passes}
                kept={kept}
                onUndo={may && mode === "new" ? (uuid) => void v.undo(uuid) : null}
              />
            )}
          </div>
        )}
      </div>
      {record === null && v.entries.length > 0 && may && (
        <details className="spared">
          <summary>Leave this visit without a record</summary>
          <div className="noteline">
            <div className="field">
              <label htmlFor="a-left">Why it is left</label>
              <input id="a-left" value={v.reason} onChange={(e) => v.setReason(e.target.value)} />
            </div>
            <button className="btn-line" onClick={() => void v.leave()}>
              Leave it
            </button>
          </div>
        </details>
      )}
      {narrow && holding && (
        <Keypad
          left={me.hand === "left"}
          says={
            <>
              <Says answer={answer} label={rules[holding]?.label ?? ""} />
              {words}
            </>
          }
          unit={v.unitOf(holding)}
          units={(rules[holding]?.units ?? []).map((u) => ({ code: u, symbol: symbols[u] ?? u }))}
          last=""
          nextLabel="next"
          onKey={(k) => v.type(holding, press(body[holding]?.text ?? "", k))}
          onUnit={(u) => v.type(holding, body[holding]?.text ?? "", u)}
          onSame={() => undefined}
          onClear={() => {
            setHolding(null);
            (document.activeElement as HTMLElement | null)?.blur();
          }}
          onNext={() => t.next(holding)}
        />
      )}
    </div>
  );
}
function ReadSentence({ t, method }: { t: Tools; method: Method }) {
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
          The rim dial is carried by the{" "}
          <Pick
            t={t}
            name="carried_by"
            label="The rim dial is carried by"
            options={[
              ["motor", "motor"],
              ["pump", "pump"],
            ]}
          />
          , the face dial touches the{" "}
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
          read after the last tightening
        </Tick>
      )}
    </div>
  );
}
function Says({ answer, label }: { answer: Shown | null; label: string }) {
  const problem = answer?.problems[0];
  const top = answer?.findings[0];
  if (problem) return <span className="v-act">{problem.message}</span>;
  return top ? (
    <span>
      <strong className={`v-${top.verdict}`}>
        {top.title}: {top.verdict}.
      </strong>{" "}
      {top.reason}
    </span>
  ) : (
    <span className="mute">{label}</span>
  );
}
