/** A lead on its way to the overload: through its transformer, so many times round, to the dial. */
import type { Schemas } from "../../base";
import { NamedFigure, useTools } from "../../safety";
import css from "./drawing.module.scss";

type View = Schemas["ShownProtectionView"];
const CENTRE = { x: 430, y: 150 };
const R = 104;
const MOST_LOOPS = 6;

/** From the left end of the arc over its top to the right one. */
const angle = (at: number): number => Math.PI * (1 - at);
const on = (at: number, r: number): string =>
  `${CENTRE.x + r * Math.cos(angle(at))} ${CENTRE.y - r * Math.sin(angle(at))}`;
const arc = (from: number, to: number, r: number): string => `M${on(from, r)}A${r} ${r} 0 0 1 ${on(to, r)}`;

export function Dial({ view }: { view: View }) {
  const { dial } = view;
  const inMotor = view.device === "inside" || view.device === "none";
  return (
    <div className={css.stage} data-dial={dial.at ?? ""}>
      <svg viewBox="0 0 580 190" role="img" aria-label={wordsOf(view)}>
        <Way view={view} />
        {!inMotor && (
          <>
            <path className={css.arc} d={arc(0, 1, R)} />
            {dial.least != null && dial.most != null && (
              <path className={css.within} d={arc(dial.least, Math.max(dial.least, dial.most), R - 10)} />
            )}
            {dial.hard != null && dial.most != null && (
              <path className={css.hard} d={arc(dial.most, dial.hard, R - 10)} />
            )}
            {Array.from({ length: 11 }, (_, i) => (
              <path
                key={i}
                className={css.tick}
                d={`M${on(i / 10, R)}L${on(i / 10, R + (i % 5 ? 6 : 11))}`}
              />
            ))}
            {dial.due != null && (
              <path
                className={css.due}
                d={`M${on(dial.due, R + 4)}L${on(dial.due + 0.018, R + 20)}L${on(dial.due - 0.018, R + 20)}Z`}
              />
            )}
            {dial.at != null && (
              <path className={css.pointer} d={`M${CENTRE.x} ${CENTRE.y}L${on(dial.at, R - 16)}`} />
            )}
            <circle className={css.knob} cx={CENTRE.x} cy={CENTRE.y} r="9" />
          </>
        )}
      </svg>
    </div>
  );
}
/** The lead from above: a ring round it where a transformer is fitted, and as many passes as it takes. */
function Way({ view }: { view: View }) {
  const loops = Math.min(view.loops, MOST_LOOPS);
  const wound = Array.from({ length: Math.max(0, loops - 1) }, (_, i) => {
    const spread = 16 + i * 9;
    return `M70 ${92 - spread / 2}C${70 + 34 + spread} ${78 - spread} ${70 + 34 + spread} ${110 + spread} 70 ${98 + spread / 2}`;
  });
  return (
    <>
      <path className={css.lead} d="M70 0V190" />
      {wound.map((d) => (
        <path key={d} className={css.turn} d={d} />
      ))}
      <ellipse className={view.ratio ? css.ring : css.eye} cx="70" cy="95" rx="30" ry="11" />
      <path className={css.sense} d={view.device === "inside" ? "M70 180H150" : "M100 95H326"} />
      <text className={css.words} x="112" y="87">
        {view.ratio || (view.device === "drive" ? "in the drive" : "no transformer")}
      </text>
      <text className={css.words} x="112" y="113">
        {view.loops > 1 ? `${String(view.loops)} passes` : "one pass"}
        {view.inside_delta ? ", inside the delta" : ""}
      </text>
      <text className={css.words} x="84" y="16">
        {view.plate ? `nameplate ${view.plate.shown}` : "nameplate current not entered"}
      </text>
    </>
  );
}
const wordsOf = (view: View): string =>
  view.dial.set
    ? `Dial at ${view.dial.set.shown}, belongs at ${view.dial.right?.shown ?? "?"}`
    : "Dial, not read yet";

export function DialFigures({ view }: { view: View }) {
  const { narrow } = useTools();
  return (
    <div className={css.row} data-narrow={narrow || undefined}>
      <NamedFigure name="dial" label="dial stands at" />
      <NamedFigure name="multiplier" label="trip ÷ dial" />
      <NamedFigure name="loops" label="passes of each lead" />
      {view.dial.right && (
        <p className={css.right} data-due>
          belongs at <strong className="mono">{view.dial.right.shown}</strong>
          {view.dial.trip && (
            <>
              , trips at <strong className="mono">{view.dial.trip.shown}</strong>
            </>
          )}
        </p>
      )}
    </div>
  );
}
