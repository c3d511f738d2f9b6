/** A pump's curve on paper: what it makes, what the pipes ask for, where it runs; below it the shaft's power.
 *  A what-if is dragged along it in pencil, or moved by the arrow keys. */
import { useRef, type PointerEvent } from "react";
import { useNarrow, type Schemas } from "../base";
import css from "./water.module.scss";

type Curve = Schemas["ShownPumpPaper"];
type Places = readonly (readonly number[])[];
const BOX = { left: 52, right: 12, top: 16, head: 300, gap: 52, power: 96, width: 640 };

interface Props {
  curve: Curve;
  label: string;
  /** Where the what-if stands, and what becomes of it; none: it cannot be tried here. */
  tryAt?: number | null;
  onTry?: (at: number | null) => void;
}
export function Paper({ curve, label, tryAt, onTry }: Props) {
  const narrow = useNarrow();
  const box = narrow ? { ...BOX, width: 380, head: 220, power: 70, left: 44 } : BOX;
  const wide = box.width - box.left - box.right;
  const base = box.top + box.head;
  const low = base + box.gap + box.power;
  const x = (at: number) => box.left + at * wide;
  const y = (at: number) => base - at * box.head;
  const kw = (at: number) => low - at * box.power;
  const line = (places: Places, up: (at: number) => number) =>
    places.map(([a, b], i) => `${i ? "L" : "M"}${String(x(a ?? 0))} ${String(up(b ?? 0))}`).join("");
  const height = curve.power ? low + 24 : base + 44;
  return (
    <figure className={css.curvepaper}>
      <svg viewBox={`0 0 ${String(box.width)} ${String(height)}`} role="img" aria-label={label}>
        {curve.preferred && (
          <rect
            className={css.preferred}
            data-preferred
            x={x(curve.preferred[0] ?? 0)}
            width={Math.max(0, x(curve.preferred[1] ?? 0) - x(curve.preferred[0] ?? 0))}
            y={box.top}
            height={box.head}
          />
        )}
        {curve.head.ticks.map((t) => (
          <g key={t.at}>
            <path className={css.grid} d={`M${String(box.left)} ${String(y(t.at))}H${String(x(1))}`} />
            <text className={css.axis} x={box.left - 8} y={y(t.at) + 4} textAnchor="end">
              {t.value.figure}
            </text>
          </g>
        ))}
        <path
          className={css.frame}
          d={`M${String(box.left)} ${String(box.top)}V${String(base)}H${String(x(1))}`}
        />
        {curve.flow.ticks.map((t) => (
          <text key={t.at} className={css.axis} x={x(t.at)} y={base + 18} textAnchor="middle">
            {t.value.figure}
          </text>
        ))}
        <text className={css.axis} x={box.left + 6} y={box.top + 6}>
          head {curve.head.ticks[0]?.value.symbol}
        </text>
        <text className={css.axis} x={x(1)} y={base + 36} textAnchor="end">
          flow {curve.flow.ticks[0]?.value.symbol}
        </text>
        <path className={curve.indicative ? css.indicative : css.pump} d={line(curve.pump, y)} data-pump />
        {curve.preferred && !curve.indicative && (
          <path className={css.best} d={line(within(curve.pump, curve.preferred), y)} />
        )}
        <path className={css.system} d={line(curve.system, y)} data-system />
        <path className={css.closed} d={line(curve.closed_in, y)} data-closed />
        <path className={css.slowed} d={line(curve.slowed, y)} />
        <Mark at={curve.bep} says="best" {...{ x, base }} />
        <Mark at={curve.need} says="needed" {...{ x, base }} />
        <Mark at={curve.floor} says="least" {...{ x, base }} />
        {curve.power && (
          <Power curve={curve} {...{ x, kw, line, low, top: base + box.gap, left: box.left }} />
        )}
        {curve.point && (
          <g data-point={curve.point.x}>
            <path
              className={css.error}
              d={`M${String(x(curve.point.x - curve.point.u))} ${String(y(curve.point.y))}H${String(x(curve.point.x + curve.point.u))}`}
            />
            <circle className={css.point} cx={x(curve.point.x)} cy={y(curve.point.y)} r="7" />
          </g>
        )}
        {curve.tried && (
          <g data-tried={curve.tried.x}>
            <circle className={css.tried} cx={x(curve.tried.x)} cy={y(curve.tried.y)} r="9" />
            {curve.tried.kw != null && (
              <circle className={css.tried} cx={x(curve.tried.x)} cy={kw(curve.tried.kw)} r="7" />
            )}
          </g>
        )}
      </svg>
      {onTry && <Grip left={box.left / box.width} wide={wide / box.width} at={tryAt ?? null} onTry={onTry} />}
    </figure>
  );
}
const within = (places: Places, range: readonly number[]): Places =>
  places.filter(([a = 0]) => a >= (range[0] ?? 0) && a <= (range[1] ?? 1));

function Mark({
  at,
  says,
  x,
  base,
}: {
  at: number | null | undefined;
  says: string;
  x: (at: number) => number;
  base: number;
}) {
  if (at == null) return null;
  return (
    <g data-mark={says}>
      <path className={css.mark} d={`M${String(x(at))} ${String(base - 8)}V${String(base + 4)}`} />
      <text className={css.marked} x={x(at)} y={base - 14} textAnchor="middle">
        {says}
      </text>
    </g>
  );
}
interface PowerProps {
  curve: Curve;
  x: (at: number) => number;
  kw: (at: number) => number;
  line: (places: Places, up: (at: number) => number) => string;
  low: number;
  top: number;
  left: number;
}
function Power({ curve, x, kw, line, low, top, left }: PowerProps) {
  return (
    <g>
      <path className={css.frame} d={`M${String(left)} ${String(top)}V${String(low)}H${String(x(1))}`} />
      {curve.power?.ticks.map((t) => (
        <text key={t.at} className={css.axis} x={left - 8} y={kw(t.at) + 4} textAnchor="end">
          {t.value.figure}
        </text>
      ))}
      <text className={css.axis} x={left + 6} y={top + 4}>
        shaft {curve.power?.ticks[0]?.value.symbol}
      </text>
      {curve.rated != null && (
        <path
          className={css.rated}
          data-rated
          d={`M${String(left)} ${String(kw(curve.rated))}H${String(x(1))}`}
        />
      )}
      <path className={css.pump} d={line(curve.kw, kw)} />
      {curve.point?.kw != null && (
        <circle className={css.point} cx={x(curve.point.x)} cy={kw(curve.point.kw)} r="6" />
      )}
    </g>
  );
}
/** What the what-if is moved by: a finger along the paper, or the arrow keys. */
function Grip(p: { left: number; wide: number; at: number | null; onTry: (at: number | null) => void }) {
  const ref = useRef<HTMLDivElement>(null);
  const drag = (e: PointerEvent) => {
    const room = ref.current?.getBoundingClientRect();
    if (!room || (e.type === "pointermove" && e.buttons !== 1)) return;
    const at = ((e.clientX - room.left) / room.width - p.left) / p.wide;
    p.onTry(Math.round(Math.min(1, Math.max(0, at)) * 1000) / 1000);
  };
  const step = (by: number) =>
    p.onTry(Math.round(Math.min(1, Math.max(0, (p.at ?? 0.5) + by)) * 1000) / 1000);
  const keys: Record<string, () => void> = {
    ArrowLeft: () => step(-0.01),
    ArrowRight: () => step(0.01),
    PageDown: () => step(-0.1),
    PageUp: () => step(0.1),
    Escape: () => p.onTry(null),
    Delete: () => p.onTry(null),
  };
  return (
    <div
      ref={ref}
      className={css.grip}
      role="slider"
      tabIndex={0}
      aria-label="What-if: flow left by the valve"
      aria-valuemin={0}
      aria-valuemax={1}
      aria-valuenow={p.at ?? 0}
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId);
        drag(e);
      }}
      onPointerMove={drag}
      onKeyDown={(e) => {
        const act = keys[e.key];
        if (!act) return;
        e.preventDefault();
        act();
      }}
    />
  );
}
