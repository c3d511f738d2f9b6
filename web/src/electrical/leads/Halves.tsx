/** Each half winding as an arrow of its true length and angle, over the one that it would have on the right list. */
import type { Schemas } from "../../base";
import css from "./drawing.module.scss";

type Half = Schemas["ShownHalfView"];
const R = 34;
const MOST = 2.2;

export function Halves({ halves }: { halves: readonly Half[] }) {
  if (!halves.length) return null;
  return (
    <div className={css.halves} role="group" aria-label="Half windings">
      {halves.map((h) => (
        <figure key={h.name} data-half={h.name} data-state={h.state}>
          <svg viewBox="-62 -62 124 124" aria-hidden="true">
            <circle className={css.made} r={R} />
            <path className={css.due} d={arrow(h.due_x, h.due_y)} />
            {h.state === "open" ? (
              <path className={css.broken} d="M-9 -9L9 9M9 -9L-9 9" />
            ) : (
              <path className={css.arrow} d={arrow(h.x, h.y)} />
            )}
          </svg>
          <figcaption>
            <strong>{h.name}</strong>
            <span className="mono">
              {h.state || `${h.percent.shown}, ${h.angle.shown}`}
              {h.volts && !h.state ? ` ${h.volts.shown}` : ""}
            </span>
          </figcaption>
        </figure>
      ))}
    </div>
  );
}
/** From the middle, with its head; what is longer than fits ends at the edge, with a second head. */
function arrow(x: number, y: number): string {
  const length = Math.hypot(x, y);
  if (length < 0.02) return "M-2 0H2M0 -2V2";
  const at = Math.min(length, MOST / 1.25) * R;
  const [ux, uy] = [x / length, -y / length];
  const head = (d: number) =>
    `M${ux * d - ux * 8 - uy * 5} ${uy * d - uy * 8 + ux * 5}L${ux * d} ${uy * d}L${ux * d - ux * 8 + uy * 5} ${uy * d - uy * 8 - ux * 5}`;
  return `M0 0L${ux * at} ${uy * at}${head(at)}${length * R > at ? head(at - 7) : ""}`;
}
