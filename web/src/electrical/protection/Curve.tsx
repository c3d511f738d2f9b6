/** Seconds to a trip over the current, from cold and warm; the start, the locked rotor and a lost leg on it. */
import type { Schemas } from "../../base";
import css from "./drawing.module.scss";

type View = NonNullable<Schemas["ShownProtectionView"]["curve"]>;
const W = 520;
const H = 230;
const LEFT = 54;
const TOP = 12;

const px = (x: number): number => LEFT + x * (W - LEFT - 8);
const py = (y: number): number => TOP + (1 - y) * (H - TOP - 30);
const line = (points: readonly (readonly [number, number])[]): string =>
  points.map(([x, y], i) => `${i ? "L" : "M"}${px(x)} ${py(y)}`).join("");

export function Curve({ curve }: { curve: View }) {
  return (
    <figure className={css.curve}>
      <svg viewBox={`0 0 ${W} ${H}`} role="img" aria-label="Time to trip over current">
        {curve.across.map(([x, words]) => (
          <g key={words}>
            <path className={css.grid} d={`M${px(x)} ${TOP}V${py(0)}`} />
            <text className={css.axis} x={px(x)} y={H - 12} textAnchor="middle">
              {words}
            </text>
          </g>
        ))}
        {curve.up.map(([y, words]) => (
          <g key={words}>
            <path className={css.grid} d={`M${LEFT} ${py(y)}H${W - 8}`} />
            <text className={css.axis} x={LEFT - 6} y={py(y) + 4} textAnchor="end">
              {words}
            </text>
          </g>
        ))}
        <path className={css.fast} d={line(curve.fast)} />
        <path className={css.cold} d={line(curve.cold)} />
        <path className={css.hot} d={line(curve.hot)} />
        {curve.marks.map((m) => (
          <path
            key={m.id}
            className={m.id === "stall" ? css.stall : m.id === "lost" ? css.lost : css.start}
            d={
              m.until != null ? `M${px(m.x)} ${py(0)}V${py(m.until)}m-7 0h14` : `M${px(m.x)} ${py(0)}V${TOP}`
            }
          />
        ))}
      </svg>
      <figcaption>
        <ul className={css.times}>
          {curve.marks
            .filter((m) => m.cold)
            .map((m) => (
              <li key={m.id} data-mark={m.id}>
                {m.title}: trips after <strong className="mono">{m.cold?.shown}</strong> from cold
                {m.hot && (
                  <>
                    , <strong className="mono">{m.hot.shown}</strong> when warm
                  </>
                )}
              </li>
            ))}
        </ul>
        <p className="mute">
          Current as a multiple of the dial. Heavy: from cold; dashed: warm; thin: the quickest of its class.
        </p>
      </figcaption>
    </figure>
  );
}
