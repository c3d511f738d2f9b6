/** An assembly taken apart along its shaft line: each part tapped to see what it does; the one in the hand in accent. */
import { useId } from "react";
import { useNarrow } from "../base";
import { Shape, type PartDrawn } from "./shapes";
import css from "./parts.module.scss";

export interface Part {
  id: string;
  title: string;
  drawn: PartDrawn;
  state?: string;
  hand?: boolean;
  at_step?: string;
  laid?: number | null;
  fate?: string;
}
interface Props {
  parts: readonly Part[];
  label: string;
  posture?: string;
  chosen: string | null;
  onChoose: (id: string) => void;
  /** On a phone only what is near the hand. */
  near?: boolean;
}
const WIDE = 760;
const HIGH = 250;

/** What of the line is shown: on a phone a window about the parts in the hand. */
export function windowOf(parts: readonly Part[], near: boolean): [number, number] {
  const hand = parts.filter((p) => p.hand);
  if (!near || hand.length === 0) return [0, 100];
  const mid = hand.reduce((sum, p) => sum + p.drawn.x, 0) / hand.length;
  const from = Math.min(Math.max(mid - 26, 0), 48);
  return [from, from + 52];
}
/** Names that would touch stand on two, three or four lines. */
export function rows(parts: readonly Part[], scale: number): Map<string, number> {
  const ends: number[] = [];
  const out = new Map<string, number>();
  for (const p of [...parts].sort((a, b) => a.drawn.x - b.drawn.x)) {
    const half = Math.max(34, p.title.length * 3.6);
    const x = p.drawn.x * scale;
    let row = ends.findIndex((end) => end < x - half);
    if (row < 0) row = ends.length;
    ends[row] = x + half + 6;
    out.set(p.id, row);
  }
  return out;
}
export function Exploded({ parts, label, posture = "flat", chosen, onChoose, near = false }: Props) {
  const narrow = useNarrow();
  const id = useId();
  const [from, to] = windowOf(parts, near && narrow);
  const scale = WIDE / 100;
  const seen = parts.filter((p) => p.drawn.x >= from - 2 && p.drawn.x <= to + 2);
  // The names of the parts in the hand, the chosen one and what is laid out come first; a unit names itself by its parts.
  const tiny = narrow && to - from > 60;
  const named = seen.filter((p) => p.hand || p.id === chosen || (!tiny && p.drawn.shape !== "unit"));
  const at = rows(named, scale);
  const lines = Math.max(1, ...at.values()) + 1;
  const x0 = from * scale;
  const width = (to - from) * scale;
  return (
    <svg
      className={css.exploded}
      data-posture={posture}
      data-tiny={tiny || undefined}
      viewBox={`${String(x0 - 4)} 0 ${String(width + 8)} ${String(HIGH + 14 + lines * 19)}`}
      role="group"
      aria-label={label}
    >
      <defs>
        <pattern
          id={`${id}h`}
          width="6"
          height="6"
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(45)"
        >
          <path d="M0 0V6" className={css.hatch} />
        </pattern>
      </defs>
      <path className={css.centre} d={`M${String(x0)} 125H${String(x0 + width)}`} />
      {[...seen]
        .sort((a, b) => b.drawn.w - a.drawn.w)
        .map((p) => (
          <g
            key={p.id}
            className={css.part}
            data-part={p.id}
            data-state={p.state ?? "on"}
            data-hand={p.hand || undefined}
            data-chosen={p.id === chosen || undefined}
            role="button"
            tabIndex={0}
            aria-label={`${p.title}${p.state === "off" ? ", off" : p.state === "renewed" ? ", renewed" : ""}`}
            onClick={() => onChoose(p.id)}
            onKeyDown={(e) => {
              if (e.key === "Enter" || e.key === " ") {
                e.preventDefault();
                onChoose(p.id);
              }
            }}
          >
            <Shape drawn={p.drawn} scale={scale} mid={125} hatch={p.hand ? `url(#${id}h)` : "transparent"} />
          </g>
        ))}
      {named.map((p) => {
        const half = Math.max(34, p.title.length * 3.6);
        const x = Math.min(Math.max(p.drawn.x * scale, x0 + half), x0 + width - half);
        const y = HIGH + 6 + (at.get(p.id) ?? 0) * 19;
        return (
          <text
            key={p.id}
            className={css.name}
            data-hand={p.hand || undefined}
            data-chosen={p.id === chosen || undefined}
            x={x}
            y={y}
            textAnchor="middle"
          >
            {p.title}
            {p.at_step && <tspan className={css.step}> {p.at_step}</tspan>}
          </text>
        );
      })}
    </svg>
  );
}
/** What is off lies in the order in which it came off. */
export function Tray({ parts }: { parts: readonly Part[] }) {
  const laid = parts.filter((p) => p.laid != null).sort((a, b) => (a.laid ?? 0) - (b.laid ?? 0));
  if (laid.length === 0) return null;
  return (
    <ol className={css.tray} aria-label="Parts laid out in order">
      {laid.map((p) => (
        <li key={p.id} data-laid={p.laid}>
          <svg viewBox="-4 0 68 66" aria-hidden="true">
            <Shape
              drawn={{ ...p.drawn, x: 50, y: 0, h: Math.min(p.drawn.h, 12), w: 70 }}
              scale={0.6}
              mid={33}
              hatch="transparent"
            />
          </svg>
          <span className="mono">{p.laid}</span> {p.title}
        </li>
      ))}
    </ol>
  );
}
