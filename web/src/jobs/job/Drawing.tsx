/** The job: its rail, one step at a time with its parts drawn, and what has to be as it was at the edge. */
import { useEffect, useState } from "react";
import { useKeys, useNarrow, type Schemas } from "../../base";
import { Differs, type Said } from "../../logbook";
import { Bench, Sending, type Given } from "../../safety";
import { Exploded, Tray } from "../Exploded";
import { Closing } from "./Closing";
import { Edge } from "./Edge";
import { InPlace } from "./InPlace";
import css from "./job.module.scss";
import { Opening } from "./Opening";
import { Prepare } from "./Prepare";
import { ProofPage } from "./ProofPage";
import { Rail } from "./Rail";
import { StepNow } from "./StepNow";
import { useJob, type View } from "./useJob";

type Page = "prepare" | "steps" | "edge" | "proof" | "close";
const PAGES: [Page, string][] = [
  ["prepare", "Prepare"],
  ["steps", "Steps"],
  ["edge", "Put back"],
  ["proof", "Proof"],
  ["close", "Close"],
];

export function Drawing({ given }: { given: Given }) {
  // The bench that a step is worked at, in its place.
  const [bench, setBench] = useState("");
  const [said, setSaid] = useState<Said>();
  const job = useJob(given, bench !== "");
  const { tools, view } = job;
  const narrow = useNarrow();
  const [page, setPage] = useState<Page | null>(null);
  const [chosen, setChosen] = useState<string | null>(null);
  const [part, setPart] = useState<string | null>(null);
  // Confirmed, the next step stands there at once; whether it is its turn says the answer that is on its way.
  const [ahead, setAhead] = useState<{ to: string; after: unknown } | null>(null);
  const waiting = ahead !== null && ahead.after === job.told.answer && !job.told.error;
  const here = waiting ? ahead.to : (chosen ?? view?.now);
  const step = view?.steps.find((s) => s.id === here) ?? null;
  const at: Page = page ?? (view?.asks.length || (view && view.done === 0) ? "prepare" : "steps");
  // The next step comes into the hand by itself, unless another one was chosen and is not done yet.
  useEffect(() => setChosen(null), [view?.now]);
  useEffect(() => setSaid(undefined), [here]);
  const goTo = (p: Page) => {
    setBench("");
    setPage(p);
  };
  useKeys([
    ...PAGES.map(([p, words], i) => ({
      key: String(i + 1),
      does: words.toLowerCase(),
      run: () => goTo(p),
    })),
    {
      key: "n",
      does: "go to the step that is next",
      run: () => {
        setChosen(null);
        goTo("steps");
      },
    },
  ]);
  if (!view?.opened)
    return (
      <Bench tools={tools}>
        <Opening job={job} given={given} />
        <Sending />
      </Bench>
    );
  return (
    <Bench
      tools={tools}
      className={css.job ?? ""}
      aside={
        <nav className={css.pages} aria-label="Parts of the job">
          {PAGES.map(([p, words]) => (
            <button
              key={p}
              type="button"
              className="linklike"
              aria-current={at === p ? "step" : undefined}
              onClick={() => goTo(p)}
            >
              {words}
              {p === "edge" && view.changes.length > 0 && (
                <span className="mono"> {view.changes.length}</span>
              )}
            </button>
          ))}
        </nav>
      }
      before={<Told job={job} view={view} />}
    >
      {narrow && at === "steps" && <Bar view={view} at={step?.id ?? ""} />}
      <div className={css.grid} data-page={at} data-bench={bench || undefined}>
        {(!narrow || at === "steps") && (
          <Rail
            view={view}
            at={step?.id ?? ""}
            folded={narrow}
            choose={(id) => {
              setChosen(id === view.now ? null : id);
              goTo("steps");
            }}
          />
        )}
        <div className={css.middle}>
          {at === "prepare" && <Prepare job={job} view={view} start={() => setPage("steps")} />}
          {at === "steps" && step && bench && (
            <InPlace
              setId={given.set.id}
              step={step}
              bench={bench}
              back={(put) => {
                setSaid(put);
                setBench("");
              }}
            />
          )}
          {at === "steps" && step && !bench && (
            <>
              <Differs said={said} />
              <h2 className={css.title}>
                <span className="mono">{step.n}</span> {step.title}
              </h2>
              <Exploded
                parts={view.parts}
                label={`${view.title}, parts`}
                posture={view.posture}
                chosen={part}
                onChoose={(id) => setPart(id === part ? null : id)}
                near
              />
              <PartSays view={view} part={part} />
              <StepNow
                key={step.id}
                job={job}
                view={view}
                step={step}
                work={setBench}
                waiting={waiting}
                onward={(to) => setAhead({ to, after: job.told.answer })}
              />
              <Tray parts={view.parts} />
            </>
          )}
          {at === "steps" && !step && (
            <p className={css.big}>
              Every step is done.{" "}
              <button type="button" className="btn-line" onClick={() => setPage("close")}>
                Close the job
              </button>
            </p>
          )}
          {at === "proof" && <ProofPage view={view} />}
          {at === "close" && <Closing job={job} view={view} />}
          {at === "edge" && narrow && <Edge job={job} view={view} />}
          <Sending />
        </div>
        {!narrow && !bench && <Edge job={job} view={view} />}
      </div>
    </Bench>
  );
}
function Told({ job, view }: { job: ReturnType<typeof useJob>; view: View }) {
  const { answer } = job.tools;
  return (
    <>
      <p className="statesentence" data-testid="job-state">
        <strong>{view.title}</strong>, {view.reason}. {view.done} of {view.count}
        {view.left && `, about ${view.left} left`}. {view.owner && `Owner: ${view.owner}.`}
        {view.waits && ` Waits for ${view.waits}.`}
      </p>
      {job.others && <p className="notice">{job.others} opened this job. Your entries go to the same one.</p>}
      {answer && answer.questions.length > 0 && (
        <details className={css.questions} open>
          <summary>
            {answer.questions.length === 1
              ? "One entry does not count"
              : `${String(answer.questions.length)} entries do not count`}
          </summary>
          <ul role="alert">
            {answer.questions.slice(-4).map((q) => (
              <li key={q}>{q}</li>
            ))}
          </ul>
        </details>
      )}
      {answer?.problems.map((p) => (
        <p key={p.field + p.code} className="notice bad" role="alert">
          {p.message}
        </p>
      ))}
    </>
  );
}
function PartSays({ view, part }: { view: Schemas["ShownJobView"]; part: string | null }) {
  const p = view.parts.find((x) => x.id === part);
  if (!p) return null;
  return (
    <p className={css.partsays} data-part-says={p.id}>
      <strong>{p.title}</strong>: {p.does}. {p.wears && `What wears it: ${p.wears}.`}{" "}
      {p.state !== "on" && <span className="mute">{p.state === "off" ? "off now" : p.state}</span>}
    </p>
  );
}
/** How far it is, for a phone: a piece a step, the hold points as double bars. */
function Bar({ view, at }: { view: View; at: string }) {
  return (
    <ol className={css.bar} aria-label={`${String(view.done)} of ${String(view.count)} steps done`}>
      {view.steps.map((s) => (
        <li key={s.id} data-state={s.id === at ? "here" : s.state} data-hold={s.hold ? true : undefined} />
      ))}
    </ol>
  );
}
