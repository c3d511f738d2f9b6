/** Log-log paper: this test's curve growing to the right over the ghosts of the last three, the minimum as a floor. */
import { day, small, useMe, type Schemas } from "../../base";
import css from "./drawing.module.scss";

type Paper = Schemas["ShownCurvePaper"];
type Curve = Schemas["ShownCurve"];
const PAD = { left: 58, right: 14, top: 10, bottom: 26 };

export function CurvePaper({
  paper,
  width,
  height,
  zone,
}: {
  paper: Paper | null;
  width: number;
  height: number;
  zone: string;
}) {
  const me = useMe();
  const [w, h] = [width - PAD.left - PAD.right, height - PAD.top - PAD.bottom];
  const x = (at: number) => PAD.left + at * w;
  const y = (at: number) => PAD.top + (1 - at) * h;
  if (!paper) return <p className={`mute ${small.roomFor}`}>The curve starts with the first reading.</p>;
  const now = paper.curves.filter((c) => c.before === 0);
  const past = paper.curves.filter((c) => c.before > 0);
  const when = (c: Curve) =>
    `${c.taken_at ? day(c.taken_at, zone, me.locale) : ""}${c.differs ? `, ${c.differs}: not compared` : ""}`;
  const label = now.length
    ? now
        .map(
          (c) =>
            `${c.name === "all" ? "winding" : c.name}: ${c.points.map((p) => `${p.at.shown} ${p.value.shown}`).join(", ")}`,
        )
        .join("; ")
    : "earlier tests only";
  return (
    <svg
      className={css.curvepaper}
      viewBox={`0 0 ${width} ${height}`}
      width={width}
      height={height}
      role="img"
      aria-label={`Absorption curve. ${label}`}
    >
      {paper.x_ticks.map((t) => (
        <g key={t.value.shown}>
          <path className={css.grid} d={`M${x(t.at)} ${PAD.top}V${y(0)}`} />
          <text x={x(t.at)} y={height - 8} textAnchor="middle">
            {t.value.shown}
          </text>
        </g>
      ))}
      {paper.y_ticks.map((t) => (
        <g key={t.value.shown}>
          <path className={css.grid} d={`M${PAD.left} ${y(t.at)}H${x(1)}`} />
          <text x={PAD.left - 6} y={y(t.at) + 4} textAnchor="end">
            {t.value.shown}
          </text>
        </g>
      ))}
      {paper.floor != null && (
        <g>
          <path className={css.floor} d={`M${PAD.left} ${y(paper.floor)}H${x(1)}`} />
          <path className={css.earth} d={hatch(PAD.left, x(1), y(paper.floor))} />
          <text x={x(1) - 4} y={y(paper.floor) - 5} textAnchor="end">
            minimum at this temperature
          </text>
        </g>
      )}
      {past.map((c) => (
        <g key={`${c.before}${c.name}`} className={`${css.ghostline} g${c.before}`}>
          <Line curve={c} x={x} y={y} />
        </g>
      ))}
      {spread(past, y).map(({ curve, at }) => (
        <text
          key={`${curve.before}${curve.name}`}
          x={x(curve.points.at(-1)?.x ?? 1) - 4}
          y={at}
          textAnchor="end"
        >
          {when(curve)}
        </text>
      ))}
      {now.map((c) => (
        <g key={c.name} className={css.nowline}>
          <Line curve={c} x={x} y={y} />
          {c.points.map((p) => (
            <Dot key={p.entry + p.at.shown} p={p} x={x(p.x)} y={y(p.y)} />
          ))}
          {c.name !== "all" && <Last curve={c} x={x} y={y} word={c.name} />}
        </g>
      ))}
    </svg>
  );
}
/** The dates of the ghosts, no two on one line. */
function spread(curves: Curve[], y: (at: number) => number): { curve: Curve; at: number }[] {
  let above = -Infinity;
  return curves
    .map((curve) => ({ curve, at: y(curve.points.at(-1)?.y ?? 0) - 6 }))
    .sort((a, b) => a.at - b.at)
    .map(({ curve, at }) => ({ curve, at: (above = Math.max(at, above + 14)) }));
}
const hatch = (from: number, to: number, y: number) =>
  Array.from({ length: Math.floor((to - from) / 14) }, (_, i) => `M${from + 6 + i * 14} ${y}l-6 7`).join("");
interface Place {
  x: (at: number) => number;
  y: (at: number) => number;
}
function Line({ curve, x, y }: { curve: Curve } & Place) {
  return (
    <path
      d={curve.points.map((p, i) => `${i ? "L" : "M"}${x(p.x)} ${y(p.y)}`).join("")}
      strokeDasharray={curve.differs ? "2 4" : undefined}
    />
  );
}
function Last({ curve, x, y, word }: { curve: Curve; word: string } & Place) {
  const p = curve.points.at(-1);
  return p ? (
    <text x={Math.min(x(p.x), x(1)) - 4} y={y(p.y) - 6} textAnchor="end">
      {word}
    </text>
  ) : null;
}
function Dot({ p, x, y }: { p: Curve["points"][number]; x: number; y: number }) {
  if (p.value.bound === "exact")
    return (
      <circle cx={x} cy={y} r={3.6} className={css.dot}>
        <title>{`${p.at.shown}: ${p.value.shown}`}</title>
      </circle>
    );
  const up = p.value.bound === "at_least" ? -1 : 1;
  return (
    <path d={`M${x - 5} ${y}h10M${x} ${y}v${14 * up}M${x - 4} ${y + 9 * up}l4 ${5 * up}l4 ${-5 * up}`}>
      <title>{`${p.at.shown}: ${p.value.shown}`}</title>
    </path>
  );
}
