/** One step, big enough to read from the floor: caution, do, why, mistake, what is read and looked at, and its hold. */
import { useState } from "react";
import { Act, SENDING, dayTime, useBenches, useMe, VerdictWord } from "../../base";
import { NamedFigure } from "../../safety";
import { AddPicture } from "../../logbook";
import { Draw } from "../Strokes";
import { Leads } from "./Leads";
import { Looks } from "./Looks";
import { Pair } from "./Pair";
import { ProofFields } from "./ProofFields";
import { Shop } from "./Shop";
import css from "./job.module.scss";
import { figureOf, isFigure, type Body, type Job, type Step, type View } from "./useJob";

interface Props {
  job: Job;
  view: View;
  step: Step;
}
interface Moves {
  /** Opens a bench in place of the step. */
  work: (bench: string) => void;
  /** Goes on to a step before the answer says that it is its turn. */
  onward: (to: string) => void;
  /** That answer is on its way. */
  waiting: boolean;
}
export function StepNow({ job, view, step, work, onward, waiting }: Props & Moves) {
  const { set } = job.tools.given;
  const over = step.state === "done" || step.state === "skipped";
  const next = view.steps[step.n];
  return (
    <article className={css.step} data-step-now={step.id} data-state={step.state}>
      {step.caution && (
        <p className={css.caution} role="note">
          <span aria-hidden="true">⌶</span> {step.caution}
        </p>
      )}
      <p className={css.do}>{step.do}</p>
      <dl className={css.why}>
        <dt>Why</dt>
        <dd>{step.why}</dd>
        {step.mistake && (
          <>
            <dt>Mistake</dt>
            <dd>{step.mistake}</dd>
          </>
        )}
        {step.way && (
          <>
            <dt>Here</dt>
            <dd>{step.way}</dd>
          </>
        )}
        <dt>Time</dt>
        <dd className="mono">{step.mean}</dd>
      </dl>
      {over ? <Was step={step} job={job} /> : <At job={job} step={step} view={view} work={work} />}
      {!over && (
        <Ends
          job={job}
          step={step}
          next={next?.title ?? ""}
          waiting={waiting}
          done={() => {
            if (next && next.state !== "done" && next.state !== "skipped") onward(next.id);
          }}
        />
      )}
      {job.tools.writes && job.tools.photo && (
        <div className={css.photo}>
          <AddPicture setId={set.id} tag={set.tag} entry={job.tools.photo} />
          <Draw setId={set.id} tag={set.tag} entry={job.tools.photo} />
        </div>
      )}
    </article>
  );
}
function Was({ step, job }: { step: Step; job: Job }) {
  const me = useMe();
  const zone = Intl.DateTimeFormat().resolvedOptions().timeZone;
  return (
    <p className={css.was} data-was>
      {step.state === "skipped" ? "Skipped" : "Done"} by {step.by}
      {step.at && `, ${dayTime(step.at, zone, me.locale)}`}
      {step.said && `: ${step.said}`}
      {step.skipped && `: ${step.skipped}`}
      {step.figure?.read && (
        <>
          {" "}
          <strong className="mono">{step.figure.read.shown}</strong>
          {step.figure.verdict && <VerdictWord verdict={step.figure.verdict} />}
        </>
      )}{" "}
      {job.tools.writes && step.entry && (
        <button type="button" className="linklike" onClick={() => job.undo(step.entry)}>
          Take it back
        </button>
      )}
    </p>
  );
}
/** What is entered at this step. */
function At({ job, step, view, work }: Props & Pick<Moves, "work">) {
  const may = job.tools.writes;
  const said = `said:${step.id}`;
  const offer = useBenches().data?.find((b) => b.name === step.opens)?.offer;
  return (
    <div className={css.at}>
      {step.opens && (
        <p className={css.opens}>
          <button type="button" className="btn-line" data-opens={step.opens} onClick={() => work(step.opens)}>
            {offer || step.opens}
          </button>
          {step.record_verdict && (
            <span data-record-verdict={step.record_verdict}>
              <VerdictWord verdict={step.record_verdict} /> {step.record_says}
            </span>
          )}
        </p>
      )}
      {step.looks.map((l) => (
        <Looks key={l.look} job={job} step={step} look={l} />
      ))}
      {step.found === "leads" && <Leads job={job} view={view} />}
      {step.shop && <Shop job={job} view={view} step={step} />}
      {step.twin_asked && view.pair && <Pair job={job} pair={view.pair} />}
      {step.proves && <ProofFields job={job} step={step} />}
      {step.figure && <NamedFigure name={figureOf(step.id)} />}
      {step.record && (
        <div className="field">
          <label htmlFor={said}>Record: {step.record}</label>
          <input
            id={said}
            maxLength={400}
            readOnly={!may}
            value={(job.typed[said] as string | undefined) ?? ""}
            onChange={(e) => job.put(said, e.target.value)}
          />
        </div>
      )}
    </div>
  );
}
function Ends({
  job,
  step,
  next,
  waiting,
  done: over,
}: {
  job: Job;
  step: Step;
  next: string;
  waiting: boolean;
  done: () => void;
}) {
  const { writes } = job.tools;
  const [skips, setSkips] = useState(false);
  if (!writes) return null;
  const said = `said:${step.id}`;
  const why = `why:${step.id}`;
  const figure = job.typed[figureOf(step.id)];
  const done = () => {
    const words = job.typed[said];
    job.say({
      kind: "done",
      step: step.id,
      ...(typeof words === "string" && words.trim() ? { said: words.trim() } : {}),
      ...(isFigure(figure) ? { figure } : {}),
    } as Body);
    job.forget(said, figureOf(step.id));
    over();
  };
  const skip = () => {
    job.say({ kind: "skip", step: step.id, why: String(job.typed[why] ?? "") } as Body);
    job.forget(why);
    setSkips(false);
  };
  const first = step.waits[0];
  return (
    <>
      {step.hold && (
        <p className={css.hold}>
          <span>Hold point</span>
          {step.second && " It takes a second person."}
        </p>
      )}
      <div className={css.ends}>
        <Act className={`btn-ink ${css.goon ?? ""}`} waits={waiting ? SENDING : first} onClick={done}>
          {step.hold || "Done"}
          {next && <small>then {next}</small>}
        </Act>
        {step.may_skip && !skips && (
          <button type="button" className="linklike" onClick={() => setSkips(true)}>
            Skip, give reason
          </button>
        )}
      </div>
      {skips && (
        <div className="field">
          <label htmlFor={why}>Why it is skipped</label>
          <input
            id={why}
            maxLength={300}
            value={(job.typed[why] as string | undefined) ?? ""}
            onChange={(e) => job.put(why, e.target.value)}
          />
          <Act waits={!String(job.typed[why] ?? "").trim() && "Enter why first."} onClick={skip}>
            Skip this step
          </Act>
        </div>
      )}
    </>
  );
}
