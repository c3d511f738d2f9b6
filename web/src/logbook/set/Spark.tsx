/** A series in the space of a word: its points, the limit that is nearest, the last one as a dot. */
import type { Schemas } from "../../base";
import css from "./set.module.scss";

type Trend = Schemas["TrendOut"];
const [WIDE, HIGH] = [164, 30];

export function Spark({ trend }: { trend: Trend }) {
  const up = (v: number) => (trend.log ? Math.log10(v) : v);
  const points = trend.points.filter((p) => !trend.log || p.value > 0);
  if (!points.length) return null;
  const values = points.map((p) => up(p.value));
  const most = Math.max(...values);
  const near = trend.limits
    .map((l) => up(l.value))
    .filter((l) => trend.floor || l < most + Math.abs(most) * 0.6);
  const [low, high] = [Math.min(...values, ...near), Math.max(...values, ...near)];
  const [first, last] = [points[0]?.t ?? 0, points.at(-1)?.t ?? 0];
  const x = (t: number) => (last === first ? WIDE - 8 : 4 + ((t - first) / (last - first)) * (WIDE - 12));
  const y = (v: number) => (high === low ? HIGH / 2 : HIGH - 5 - ((v - low) / (high - low)) * (HIGH - 10));
  return (
    <svg className={css.spark} viewBox={`0 0 ${WIDE} ${HIGH}`} width={WIDE} height={HIGH} aria-hidden="true">
      {near.map((l) => (
        <line key={l} className={css.sparklimit} x1={0} x2={WIDE} y1={y(l)} y2={y(l)} />
      ))}
      <polyline
        className={css.sparkline}
        points={points.map((p) => `${x(p.t)},${y(up(p.value))}`).join(" ")}
      />
      <circle className={css.sparkdot} cx={x(last)} cy={y(values.at(-1) ?? 0)} r={3} />
    </svg>
  );
}
