/** Pressures over time: as read, the band of a tight loop, the least standing pressure, three ways to get there. */
import type { Schemas } from "../../base";
import css from "../water.module.scss";

type View = Schemas["ShownLoopView"];
const BOX = { left: 60, top: 12, wide: 560, tall: 240 };
const x = (at: number) => BOX.left + at * BOX.wide;
const y = (at: number) => BOX.top + (1 - at) * BOX.tall;
const path = (places: readonly (readonly number[])[]) =>
  places.map(([a = 0, b = 0], i) => `${i ? "L" : "M"}${String(x(a))} ${String(y(b))}`).join("");

export function Pressures({ view }: { view: View }) {
  const banded = view.pressed.filter((p) => p.low != null && p.high != null);
  const band = [
    ...banded.map((p) => [p.x, p.high ?? 0]),
    ...banded.toReversed().map((p) => [p.x, p.low ?? 0]),
  ];
  return (
    <figure className={css.curvepaper}>
      <svg
        viewBox="0 0 640 300"
        role="img"
        aria-label="Standing pressures, and those of a tight loop"
        data-pressed={view.pressed.length}
      >
        {view.up.ticks.map((t) => (
          <g key={t.at}>
            <path className={css.grid} d={`M${String(BOX.left)} ${String(y(t.at))}H${String(x(1))}`} />
            <text className={css.axis} x={BOX.left - 6} y={y(t.at) + 4} textAnchor="end">
              {t.value.figure}
            </text>
          </g>
        ))}
        <path
          className={css.frame}
          d={`M${String(BOX.left)} ${String(BOX.top)}V${String(y(0))}H${String(x(1))}`}
        />
        {band.length > 2 && <path className={css.band} d={`${path(band)}Z`} data-band />}
        {view.floor != null && (
          <g data-floor>
            <path className={css.floor} d={`M${String(BOX.left)} ${String(y(view.floor))}H${String(x(1))}`} />
            <text className={css.marked} x={BOX.left + 6} y={y(view.floor) - 6}>
              least standing pressure {view.least?.shown}
            </text>
          </g>
        )}
        {view.laws.map((l) => (
          <path key={l.id} className={css.law} d={path(l.path)} data-law={l.id} />
        ))}
        <path className={css.seen} d={path(view.pressed.map((p) => [p.x, p.y]))} />
        {view.pressed.map((p) => (
          <g key={p.at}>
            <circle className={p.past ? css.tried : css.point} cx={x(p.x)} cy={y(p.y)} r="6" />
            <text className={css.axis} x={x(p.x)} y={y(0) + 20} textAnchor="middle">
              {p.temp?.figure}
            </text>
          </g>
        ))}
        <text className={css.axis} x={BOX.left - 24} y={y(0) + 20} textAnchor="end">
          {view.pressed[0]?.temp?.symbol}
        </text>
        <text className={css.axis} x={x(1)} y={y(0) + 40} textAnchor="end">
          {view.span?.shown}
        </text>
      </svg>
      {view.laws.length > 0 && (
        <ul className={css.ways} data-laws>
          {view.laws.map((l) => (
            <li key={l.id}>
              <span>{l.says}</span>
              <strong className="mono">{l.hours?.shown}</strong>
            </li>
          ))}
        </ul>
      )}
    </figure>
  );
}
