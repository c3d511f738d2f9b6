/** Words on a plot, none over another: each has places where it may stand, and takes the first that is free. */
export interface Box {
  x: number;
  y: number;
  w: number;
  h: number;
}
/** One word: its size, and the upper left corners where it may stand, the likeliest first. */
export interface PlotWord {
  w: number;
  h: number;
  at: [x: number, y: number][];
}
const meet = (a: Box, b: Box) => a.x < b.x + b.w && b.x < a.x + a.w && a.y < b.y + b.h && b.y < a.y + a.h;
const within = (a: Box, room: Box) =>
  a.x >= room.x && a.y >= room.y && a.x + a.w <= room.x + room.w && a.y + a.h <= room.y + room.h;

/** Where each of these stands in this room; null where no place of its own is left: what cannot be read is not drawn. */
export function placeWords(words: PlotWord[], room: Box): (Box | null)[] {
  const taken: Box[] = [];
  return words.map(({ w, h, at }) => {
    const boxes = at.map(([x, y]) => ({ x, y, w, h }));
    const free = boxes.find((b) => within(b, room) && !taken.some((t) => meet(t, b))) ?? null;
    if (free) taken.push(free);
    return free;
  });
}
/** Places along a level line at height `y`, between `left` and `right`: over it and under it, from the left on. */
export function alongLine(y: number, w: number, h: number, left: number, right: number): [number, number][] {
  const columns = [0, 0.25, 0.5, 0.75, 1].map((k) => left + k * Math.max(0, right - left - w));
  return columns.flatMap((x): [number, number][] => [
    [x, y - h - 1],
    [x, y + 2],
  ]);
}
/** Places beside an upright line at `x`, from the top down: to its right, else to its left. */
export function besideLine(x: number, w: number, h: number, top: number, bottom: number): [number, number][] {
  const rows = Array.from({ length: Math.max(1, Math.floor((bottom - top) / h)) }, (_, i) => top + i * h);
  return rows.flatMap((y): [number, number][] => [
    [x + 3, y],
    [x - 3 - w, y],
  ]);
}
