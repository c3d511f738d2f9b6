/** One part of a pump in section, at its place about the shaft line, by the strokes that the core draws it with. */
import css from "./parts.module.scss";

export interface PartDrawn {
  shape: string;
  strokes: number[][];
  x: number;
  w: number;
  h: number;
  y: number;
}
const round = (v: number) => String(Math.round(v * 10) / 10);

/** Hatched where it is in the hand. */
export function Shape({
  drawn,
  scale,
  mid,
  hatch,
}: {
  drawn: PartDrawn;
  scale: number;
  mid: number;
  hatch: string;
}) {
  const left = (drawn.x - drawn.w / 2) * scale;
  const line = mid + drawn.y * 2.4;
  const at = (points: number[], i: number) =>
    `${round(left + (points[i] ?? 0) * drawn.w * scale)} ${round(line + (points[i + 1] ?? 0) * drawn.h * 2.4)}`;
  const d = drawn.strokes
    .map((points) => points.map((_, i) => (i % 2 ? "" : `${i ? "L" : "M"}${at(points, i)}`)).join(""))
    .join("");
  return <path className={css.glyph} d={d} fill={hatch} />;
}
