/**
 * A board of time: a year back and a year on, today a line down through it, each lane the time in which
 * something counts.
 */
import type { ReactNode } from "react";
import { monthName, useMe } from "../base";
import { band, gap, part, type Band, type Stretch } from "./logic";
import css from "./instruments.module.scss";

/** The width of an axis in its own units. */
const WIDE = 1000;

export function Board({
  stretch,
  today,
  label,
  children,
}: {
  stretch: Stretch;
  today: Date;
  label: string;
  children: ReactNode;
}) {
  const { locale } = useMe();
  const name = (m: Date) => monthName(m, locale);
  const now = part(today.getTime(), stretch);
  return (
    <div className={css.board} role="list" aria-label={label}>
      <div className={css.scale} aria-hidden="true">
        <span />
        <svg className={css.axis} viewBox={`0 0 ${WIDE} 24`}>
          {stretch.months.map((m) => (
            <text
              key={m.date.getTime()}
              className={m.first ? css.newyear : ""}
              x={WIDE * m.at}
              y={17}
              textAnchor="middle"
            >
              {m.first ? m.date.getUTCFullYear() : name(m.date)}
            </text>
          ))}
          <Line at={now} high={24} className={css.today} />
        </svg>
      </div>
      {children}
    </div>
  );
}
function Line({ at, high, className = "" }: { at: number; high: number; className?: string | undefined }) {
  return <path className={className} d={`M${WIDE * at} 0V${high}`} />;
}
const across = (b: Band) => ({ x: WIDE * b.from, y: 1, width: WIDE * (b.to - b.from), height: 18 });
/** Strokes over the time that is lost. */
function hatch(b: Band): string {
  const [from, to] = [WIDE * b.from, WIDE * b.to];
  const n = Math.max(1, Math.floor((to - from) / 12));
  return Array.from(
    { length: n },
    (_, i) => `M${from + (i + 0.2) * ((to - from) / n)} 19L${from + (i + 0.8) * ((to - from) / n)} 1`,
  ).join("");
}
interface LaneProps {
  stretch: Stretch;
  today: Date;
  name: string;
  head: ReactNode;
  verdict: string;
  /** The first day and the last; none: there is no time in which it counts. */
  since: string | null;
  last: string | null;
  /** Nothing runs out: it counts as long as it is in service. */
  open?: boolean;
  says: ReactNode;
  children?: ReactNode;
}
export function Lane(p: LaneProps) {
  const { stretch: s } = p;
  const counts = p.since !== null && (p.last !== null || p.open) ? band(p.since, p.last, s) : null;
  const lost = p.since === null ? null : gap(p.last, p.today, s);
  const now = part(p.today.getTime(), s);
  return (
    <div className={css.lane} role="listitem" data-name={p.name} data-verdict={p.verdict}>
      <div className={css.head}>{p.head}</div>
      <div className={css.course} aria-hidden="true">
        <svg className={css.axis} viewBox={`0 0 ${WIDE} 40`} preserveAspectRatio="none">
          {s.months.map((m) => (
            <Line key={m.date.getTime()} at={m.at} high={40} className={m.first ? css.newyear : css.month} />
          ))}
          <Line at={now} high={40} className={css.today} />
        </svg>
        <svg className={css.bands} viewBox={`0 0 ${WIDE} 20`} preserveAspectRatio="none">
          {counts && <rect className={css.band} {...across(counts)} />}
          {lost && <rect className={css.gap} {...across(lost)} />}
          {lost && <path className={css.hatch} d={hatch(lost)} />}
        </svg>
      </div>
      <div className={css.told}>{p.says}</div>
      {p.children && <div className={css.more}>{p.children}</div>}
    </div>
  );
}
