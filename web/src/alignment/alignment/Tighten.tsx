/** Bolts drawn in the order in which they are drawn up, round after round. */
import type { Schemas } from "../../base";
import css from "./work.module.scss";

export function Tighten({
  bolts,
  may,
  done,
  onDone,
}: {
  bolts: Schemas["ShownBoltView"];
  may: boolean;
  done: boolean;
  onDone: () => void;
}) {
  const n = bolts.order.length;
  const place = (b: number): [number, number] => {
    const a = ((b - 1) / n) * 2 * Math.PI - (n === 4 ? Math.PI * 0.75 : Math.PI / 2);
    return [Math.round(130 + 96 * Math.cos(a)), Math.round(125 + 96 * Math.sin(a))];
  };
  const path = bolts.order.map((b, i) => `${i ? "L" : "M"}${place(b).join(" ")}`).join("");
  return (
    <section className={css.tighten} aria-label="Tighten">
      <svg
        viewBox="0 0 260 250"
        role="img"
        aria-label={`Order: ${bolts.order.map((b, i) => `${i + 1} at place ${b}`).join(", ")}`}
      >
        <path className={css.dimpath} d={path} />
        {bolts.order.map((b, i) => {
          const [x, y] = place(b);
          return (
            <g key={b} transform={`translate(${x} ${y})`}>
              <path className={css.nut} d="M-18 0L-9-16H9L18 0L9 16H-9z" />
              <text textAnchor="middle" y={6} className="mono">
                {i + 1}
              </text>
            </g>
          );
        })}
      </svg>
      <div>
        <p>
          {bolts.steps.length ? (
            <>
              Cross pattern, {bolts.steps.length} rounds:{" "}
              <strong className="mono">{bolts.steps.map((s) => s.shown).join(" › ")}</strong>.
            </>
          ) : (
            "Cross pattern, three rounds: snug, half torque, full torque. Enter the bolt torque under Dimensions to get a figure for each round."
          )}
        </p>
        <p className="mute">
          Then read again: tightening moves the motor. The readings after final tightening are the as-left.
        </p>
        {done && <strong>Tightened. Read again at the coupling.</strong>}
        {may && !done && (
          <button className="btn-ink" onClick={onDone}>
            Confirm tightened in cross pattern
          </button>
        )}
      </div>
    </section>
  );
}
