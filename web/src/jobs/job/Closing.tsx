/** Closing: parts used, hours, cause and root; what still stands between this job and its record. */
import { Act } from "../../base";
import { NamedFigure, PutOnRecord, Verdicts } from "../../safety";
import { isFigure, type Body, type Job, type View } from "./useJob";
import css from "./job.module.scss";

export function Closing({ job, view }: { job: Job; view: View }) {
  const { answer, writes } = job.tools;
  const missing = answer?.missing ?? [];
  return (
    <section className={css.closing} aria-label="Close the job">
      {writes && <Used job={job} view={view} />}
      {writes && <Hours job={job} view={view} />}
      {writes && <Cause job={job} view={view} />}
      <Verdicts />
      {writes && missing.length === 0 && answer && <PutOnRecord />}
      {writes && (
        <details>
          <summary>Close without record</summary>
          <div className="field">
            <label htmlFor="leave-why">Reason</label>
            <input
              id="leave-why"
              maxLength={300}
              value={job.reason}
              onChange={(e) => job.setReason(e.target.value)}
            />
          </div>
          <Act waits={!job.reason.trim() && "Enter the reason."} onClick={() => void job.leave()}>
            Close without record
          </Act>
        </details>
      )}
    </section>
  );
}
function Used({ job, view }: { job: Job; view: View }) {
  // A part that fills two lines of the kit is booked once.
  const every = new Map(
    (view.pick?.kit ?? []).flatMap((k) =>
      k.lots.map((l) => [`${l.code}/${l.place}/${String(l.emergency)}`, l]),
    ),
  );
  const lots = [...every.values()].filter((l) => !l.emergency);
  const use = (l: (typeof lots)[number], used: number, emergency = false) =>
    job.say({
      kind: "part",
      code: l.code,
      place: l.place,
      reserved: l.reserved,
      used,
      ...(emergency ? { emergency: true } : {}),
    } as Body);
  if (every.size === 0) return null;
  return (
    <fieldset className={css.used}>
      <legend>Parts used</legend>
      {lots.map((l) => (
        <div key={l.code + l.place} data-used={l.code} data-place={l.place}>
          <span className="mono">{l.code}</span> {l.title}, {l.place}
          <input
            type="number"
            inputMode="numeric"
            min={0}
            max={99}
            aria-label={`${l.code} used from ${l.place}`}
            value={String(job.typed[`used:${l.code}:${l.place}`] ?? "")}
            onChange={(e) => job.put(`used:${l.code}:${l.place}`, e.target.value)}
          />
          <Act
            waits={!/^\d{1,2}$/.test(String(job.typed[`used:${l.code}:${l.place}`] ?? "")) && "How many?"}
            onClick={() => {
              use(l, Number(job.typed[`used:${l.code}:${l.place}`]));
              job.forget(`used:${l.code}:${l.place}`);
            }}
          >
            Save
          </Act>
          {l.used > 0 && (
            <button type="button" className="linklike" onClick={() => use(l, l.used, true)}>
              old one is good: keep as emergency only
            </button>
          )}
        </div>
      ))}
      {every.size > lots.length && (
        <p className="mute">What is kept for an emergency is counted out on its shelf, in Stores.</p>
      )}
    </fieldset>
  );
}
function Hours({ job, view }: { job: Job; view: View }) {
  const who = String(job.typed["hours:who"] ?? "");
  return (
    <fieldset className={css.leadrow}>
      <legend>
        Hours{view.cost?.hours && <span className="mono">: {view.cost.hours.shown} so far</span>}
      </legend>
      <div className="field">
        <label htmlFor="who-worked">Who</label>
        <input
          id="who-worked"
          maxLength={80}
          value={who}
          onChange={(e) => job.put("hours:who", e.target.value)}
        />
      </div>
      <NamedFigure name="hours" />
      <NamedFigure name="travel" />
      <Act
        waits={!isFigure(job.typed.hours) && "Enter the hours."}
        onClick={() => {
          job.say({
            kind: "hours",
            who_worked: who,
            hours: job.typed.hours,
            ...(isFigure(job.typed.travel) ? { travel: job.typed.travel } : {}),
          } as Body);
          job.forget("hours:who", "hours", "travel");
        }}
      >
        Save hours
      </Act>
    </fieldset>
  );
}
function Cause({ job, view }: { job: Job; view: View }) {
  const cause = String(job.typed["cause:cause"] ?? view.cause);
  const root = String(job.typed["cause:root"] ?? view.root);
  return (
    <fieldset className={css.leadrow}>
      <legend>Cause and root</legend>
      <div className="field">
        <label htmlFor="what-broke">What broke it</label>
        <input
          id="what-broke"
          maxLength={300}
          value={cause}
          onChange={(e) => job.put("cause:cause", e.target.value)}
        />
      </div>
      <div className="field">
        <label htmlFor="what-behind">What was behind it</label>
        <input
          id="what-behind"
          maxLength={300}
          value={root}
          onChange={(e) => job.put("cause:root", e.target.value)}
        />
      </div>
      <Act
        waits={!cause.trim() && "Enter the cause."}
        onClick={() => {
          job.say({ kind: "cause", cause: cause.trim(), root: root.trim() } as Body);
          job.forget("cause:cause", "cause:root");
        }}
      >
        Save cause
      </Act>
    </fieldset>
  );
}
