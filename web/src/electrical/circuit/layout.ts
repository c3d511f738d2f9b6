/** Where everything of a ladder stands: legs side by side, rungs from the source down, a path beside it. Geometry only. */
import type { Schemas } from "../../base";

export type View = Schemas["ShownLadderView"];
export type Reading = Schemas["ShownReadingView"];
export type Element = Schemas["ShownElementView"];
export type Span = Schemas["SpanView"];
export type Beside = Schemas["ShownPathView"];
export interface Place {
  x: number;
  y: number;
}
export const GROUND = "ground";
export const legOf = (point: string): number => Number(/\.(\d)$/.exec(point)?.[1] ?? 0);
export const rungOf = (point: string): string => point.replace(/\.\d$/, "");
export const elementOf = (point: string): string => point.slice(0, point.indexOf("."));

export interface Layout {
  width: number;
  height: number;
  /** The legs of the ladder; of each run, the ladder first. */
  legs: number[];
  columns: number[][];
  /** Where the names end and the legs begin. */
  names: number;
  rungs: Map<string, number>;
  runOf: (rung: string) => number;
  /** The middle of what each run ends at. */
  ends: Place[];
  ground: Place;
  narrow: boolean;
  /** A path stands beneath the ladder, not beside it: its wires are stubs with a word. */
  stacked: boolean;
  paths: readonly Beside[];
  at: (point: string) => Place | null;
  /** The point of the circuit that is nearest to a place, and how far it is. */
  nearest: (p: Place) => { point: string; away: number };
}
type Rungs = readonly { id: string; element: string; run: number }[];
interface More {
  grounded?: boolean;
  paths?: readonly Beside[];
  stacked?: boolean;
}
// Within an element there is room for its drawing; between two for a figure and its word; where a path leaves or comes
// back for three wires across.
const INSIDE = 42;
const BETWEEN = 46;
const ACROSS = 30;
const STUB = 34;
// A long ladder stands closer on a desk, so that it, the next probe and what is left are seen at once.
const LONG = 12;
const CLOSER = 0.84;
const APART = 1.6;

/** How wide the drawing is: a path beside the ladder takes as much more as the screen has. */
export function stageWidth(narrow: boolean, paths: number): number {
  if (narrow) return Math.min(358, window.innerWidth - 32);
  return paths ? Math.min(740, Math.max(600, window.innerWidth - 500)) : 600;
}

export function layoutOf(rungs: Rungs, conductors: number, width: number, more: More = {}): Layout {
  const narrow = width < 480;
  const paths = more.paths ?? [];
  const stacked = more.stacked ?? narrow;
  const names = narrow ? 78 : 132;
  const beside = stacked ? 0 : paths.length;
  const right = narrow ? 58 : beside ? 116 : 92;
  const gaps = (1 + beside) * Math.max(1, conductors - 1) + beside * APART;
  const gap = (width - names - right - 24) / gaps;
  const columns = [0, ...paths].map((_, run) => {
    const from = names + 24 + (stacked ? 0 : run * (conductors - 1 + APART) * gap);
    return Array.from({ length: conductors }, (_, i) => Math.round(from + i * gap));
  });
  const runs = columns.map((_, run) => rungs.filter((r) => r.run === run));
  const y = heights(runs, paths, stacked);
  const last = (run: number) => y.get(runs[run]!.at(-1)!.id) ?? 0;
  const ends = columns.map((legs, run) => ({ x: (legs[0]! + legs.at(-1)!) / 2, y: last(run) + 58 }));
  const ground = { x: columns[beside]!.at(-1)! + (narrow ? 36 : 56), y: last(0) + 34 };
  const runOf = (rung: string) => rungs.find((r) => r.id === rung)?.run ?? 0;
  const at = (point: string): Place | null => {
    if (point === GROUND) return ground;
    const x = columns[runOf(rungOf(point))]?.[legOf(point) - 1];
    const top = y.get(rungOf(point));
    return x === undefined || top === undefined ? null : { x, y: top };
  };
  const points = [
    ...rungs.flatMap((r) => columns[r.run]!.map((_, i) => `${r.id}.${i + 1}`)),
    ...(more.grounded ? [GROUND] : []),
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
  const height = Math.max(...ends.map((e) => e.y)) + 36;
  const legs = columns[0]!;
  return {
    ...{ width, height, legs, columns, names, rungs: y, runOf },
    ends,
    ground,
    narrow,
    stacked,
    paths,
    at,
    nearest,
  };
}

/** How far down each rung stands: the ladder first, with room where a path leaves it or comes back. */
function heights(runs: Rungs[], paths: readonly Beside[], stacked: boolean): Map<string, number> {
  const y = new Map<string, number>();
  const part = !stacked && runs[0]!.length > LONG ? CLOSER : 1;
  const within = (run: Rungs, i: number) =>
    Math.round(part * (run[i - 1]!.element === run[i]!.element ? INSIDE : BETWEEN));
  const long = runs.map((run) => run.slice(1).reduce((sum, _, i) => sum + within(run, i + 1), 0));
  let down = 44;
  const main = runs[0]!;
  main.forEach((r, i) => {
    if (i) down += within(main, i);
    if (!stacked)
      paths.forEach((p, n) => {
        if (i && p.leaves === main[i - 1]!.id) down += ACROSS;
        // From above where it joins the line side of something, from beneath where it joins the far ends of windings.
        const above = r.id === p.lands && !r.id.endsWith(".out");
        if (above || (i && p.lands === main[i - 1]!.id && p.lands.endsWith(".out"))) down += ACROSS;
        if (r.id === p.lands) down = Math.max(down, y.get(p.leaves)! + 2 * (BETWEEN + ACROSS) + long[n + 1]!);
      });
    y.set(r.id, down);
  });
  paths.forEach((p, n) => {
    const run = runs[n + 1]!;
    let at = stacked ? Math.max(...y.values()) + (n ? STUB : 58) + 96 : y.get(p.leaves)! + BETWEEN + ACROSS;
    run.forEach((r, i) => y.set(r.id, (at += i ? within(run, i) : 0)));
  });
  return y;
}

/** The wire between the ladder and a path beside it: the line that is drawn, and where it branches off the ladder; none
 * where the two stand in one run.
 */
export function acrossOf(
  layout: Layout,
  span: Pick<Span, "upper" | "lower" | "leg">,
): { line: string; branch: Place | null } | null {
  const [one, two] = [layout.runOf(rungOf(span.upper)), layout.runOf(rungOf(span.lower))];
  const a = layout.at(span.upper);
  const b = layout.at(span.lower);
  if (one === two || !a || !b) return null;
  if (layout.stacked) {
    const line = one ? `M${a.x} ${a.y}v${STUB}` : `M${b.x} ${b.y - STUB}V${b.y}`;
    return { line, branch: null };
  }
  const { length } = layout.legs;
  const under = span.lower.includes(".out.");
  const y = !one
    ? a.y + 12 + 8 * (length - span.leg)
    : under
      ? b.y + 12 + 8 * (span.leg - 1)
      : b.y - 12 - 8 * (length - span.leg);
  return { line: `M${a.x} ${a.y}V${y}H${b.x}V${b.y}`, branch: { x: one ? b.x : a.x, y } };
}

/** The next point that an arrow leads to; none beyond the edge. */
export function step(layout: Layout, point: string, key: string): string {
  const run = layout.runOf(rungOf(point));
  const order = [...layout.rungs.keys()].filter((r) => layout.runOf(r) === run);
  const rung = order.indexOf(rungOf(point));
  const leg = legOf(point);
  const ladder = [...layout.rungs.keys()].filter((r) => layout.runOf(r) === 0);
  if (point === GROUND) return key === "ArrowUp" ? `${ladder.at(-1)}.${layout.legs.length}` : point;
  if (key === "ArrowLeft" && leg > 1) return `${rungOf(point)}.${leg - 1}`;
  if (key === "ArrowRight" && leg < layout.legs.length) return `${rungOf(point)}.${leg + 1}`;
  if (key === "ArrowUp" && rung > 0) return `${order[rung - 1]}.${leg}`;
  if (key === "ArrowDown" && rung < order.length - 1) return `${order[rung + 1]}.${leg}`;
  return beyond(layout, point, key) ?? point;
}
/** Over the edge of a run to the one beside it, or beneath it. */
function beyond(layout: Layout, point: string, key: string): string | null {
  const run = layout.runOf(rungOf(point));
  const leg = legOf(point);
  const down = layout.at(point)?.y ?? 0;
  const path = layout.paths[run - 1];
  const level = (other: number) =>
    [...layout.rungs]
      .filter(([r]) => layout.runOf(r) === other)
      .sort(([, a], [, b]) => Math.abs(a - down) - Math.abs(b - down))[0]?.[0];
  if (path && key === "ArrowUp") return `${path.leaves}.${leg}`;
  if (path?.lands && key === "ArrowDown" && !layout.stacked) return `${path.lands}.${leg}`;
  const next = key === "ArrowRight" || (layout.stacked && key === "ArrowDown") ? run + 1 : run - 1;
  const sideways = layout.stacked ? key === "ArrowDown" : key === "ArrowRight" || key === "ArrowLeft";
  const rung = sideways && next >= 0 && next < layout.columns.length ? level(next) : undefined;
  if (!rung) return null;
  return `${rung}.${key === "ArrowLeft" ? layout.legs.length : key === "ArrowRight" ? 1 : leg}`;
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
