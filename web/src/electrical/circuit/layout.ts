/** Where everything of a ladder stands: legs side by side, rungs from the source down. Geometry only. */
import type { Schemas } from "../../base";

export type View = Schemas["ShownLadderView"];
export type Reading = Schemas["ShownReadingView"];
export type Element = Schemas["ShownElementView"];
export type Span = Schemas["SpanView"];
export interface Place {
  x: number;
  y: number;
}
export const GROUND = "ground";
export const legOf = (point: string): number => Number(/\.(\d)$/.exec(point)?.[1] ?? 0);
export const rungOf = (point: string): string => point.replace(/\.\d$/, "");

export interface Layout {
  width: number;
  height: number;
  legs: number[];
  /** Where the names end and the legs begin. */
  names: number;
  rungs: Map<string, number>;
  end: Place;
  ground: Place;
  narrow: boolean;
  at: (point: string) => Place | null;
  /** The point of the circuit that is nearest to a place, and how far it is. */
  nearest: (p: Place) => { point: string; away: number };
}
type Rungs = readonly { id: string; element: string }[];

export function layoutOf(rungs: Rungs, conductors: number, width: number, grounded: boolean): Layout {
  const narrow = width < 480;
  const names = narrow ? 78 : 132;
  const right = narrow ? 58 : 92;
  const gap = (width - names - right - 24) / Math.max(1, conductors - 1);
  const legs = Array.from({ length: conductors }, (_, i) => Math.round(names + 24 + i * gap));
  const y = new Map<string, number>();
  let down = 44;
  rungs.forEach((r, i) => {
    // Within an element there is room for its drawing; between two for a figure and its word.
    if (i) down += rungs[i - 1]!.element === r.element ? 42 : 46;
    y.set(r.id, down);
  });
  const end = { x: (legs[0]! + legs.at(-1)!) / 2, y: down + 58 };
  const ground = { x: legs.at(-1)! + (narrow ? 36 : 56), y: down + 34 };
  const at = (point: string): Place | null => {
    if (point === GROUND) return ground;
    const x = legs[legOf(point) - 1];
    const top = y.get(rungOf(point));
    return x === undefined || top === undefined ? null : { x, y: top };
  };
  const points = [
    ...rungs.flatMap((r) => legs.map((_, i) => `${r.id}.${i + 1}`)),
    ...(grounded ? [GROUND] : []),
  ];
  const nearest = (p: Place) => {
    let found = { point: "", away: Infinity };
    for (const point of points) {
      const q = at(point)!;
      const away = Math.hypot(p.x - q.x, p.y - q.y);
      if (away < found.away) found = { point, away };
    }
    return found;
  };
  return { width, height: end.y + 36, legs, names, rungs: y, end, ground, narrow, at, nearest };
}

/** The next point that an arrow leads to; none beyond the edge. */
export function step(layout: Layout, point: string, key: string): string {
  const order = [...layout.rungs.keys()];
  const rung = order.indexOf(rungOf(point));
  const leg = legOf(point);
  if (point === GROUND) return key === "ArrowUp" ? `${order.at(-1)}.${layout.legs.length}` : point;
  if (key === "ArrowLeft" && leg > 1) return `${rungOf(point)}.${leg - 1}`;
  if (key === "ArrowRight" && leg < layout.legs.length) return `${rungOf(point)}.${leg + 1}`;
  if (key === "ArrowUp" && rung > 0) return `${order[rung - 1]}.${leg}`;
  if (key === "ArrowDown" && rung < order.length - 1) return `${order[rung + 1]}.${leg}`;
  return point;
}

/** Where the field between two probes stands: beneath the middle of both, within the drawing. */
export function fieldAt(layout: Layout, one: string, two: string): Place | null {
  const a = layout.at(one);
  const b = layout.at(two || one);
  if (!a || !b) return null;
  const half = layout.narrow ? 62 : 74;
  const x = (a.x + b.x) / 2;
  return { x: Math.min(Math.max(x, half), layout.width - half), y: Math.max(a.y, b.y) + 16 };
}

/** The newest reading at each pair of points: what stands on the drawing. */
export function newestAt(readings: readonly Reading[]): Reading[] {
  const found = new Map<string, Reading>();
  for (const r of readings) found.set(`${[r.one, r.two].sort().join("|")}|${r.what}`, r);
  return [...found.values()];
}
