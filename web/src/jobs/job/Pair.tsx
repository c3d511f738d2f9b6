/** One of a pair of like age is open: what the other would cost, now or on coming back. */
import type { Body, Job, View } from "./useJob";
import beside from "./beside.module.scss";
import css from "./job.module.scss";

const WAYS: [string, string][] = [
  ["now", "Do it now"],
  ["later", "Later"],
  ["none", "Not of like age"],
];
export function Pair({ job, pair }: { job: Job; pair: NonNullable<View["pair"]> }) {
  return (
    <section className={beside.pair} aria-label="Paired set" data-pair={pair.said || "asked"}>
      <p>
        <strong className="mono">{pair.tag}</strong> is its pair. Its kit:{" "}
        <span className="mono">{pair.parts.shown}</span>
        {pair.unpriced.length > 0 && `, without ${pair.unpriced.join(", ")}: no price on the shelf`}. Coming
        back for it costs <span className="mono">{pair.again.shown}</span> again: {pair.time} of {pair.people}
        .
      </p>
      {job.tools.writes && (
        <div className={css.choices} role="group" aria-label="The paired set">
          {WAYS.map(([value, words]) => (
            <button
              key={value}
              type="button"
              className="btn-line"
              aria-pressed={pair.said === value}
              onClick={() => job.say({ kind: "about", twin: value } as Body)}
            >
              {words}
            </button>
          ))}
        </div>
      )}
      {!job.tools.writes && (
        <p className="mute">{WAYS.find(([w]) => w === pair.said)?.[1] ?? "Not asked yet."}</p>
      )}
    </section>
  );
}
