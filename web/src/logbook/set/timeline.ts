/** Where what happened to a set stands on one line: the years at its left, the last months and what is due at its right. */

const DAY = 86_400_000;
/** How much of the past, and of what is to come, is drawn large. */
const RECENT = 120 * DAY;
const AHEAD = 120 * DAY;
/** A break of the line where its scale changes. */
const GAP = 26;

export interface Axis {
  x: (t: number) => number;
  /** Left and right end of the break; none where everything is recent. */
  gap: [number, number] | null;
  now: number;
  from: number;
  recent: number;
  until: number;
  /** Where the line ends. */
  end: number;
}

export function axisOf(first: number, now: number, due: number, width: number): Axis {
  const until = Math.min(Math.max(due, now + 30 * DAY), now + AHEAD);
  const recent = now - RECENT;
  const end = width - 8;
  if (first >= recent - 60 * DAY) {
    const from = Math.min(first, now - 30 * DAY);
    const x = (t: number) => 8 + ((Math.min(t, until) - from) / (until - from)) * (end - 8);
    return { x, gap: null, now: x(now), from, recent: from, until, end };
  }
  const left = Math.round(width * (width < 500 ? 0.4 : 0.56));
  const right = left + GAP;
  const x = (t: number) =>
    t < recent
      ? 8 + ((t - first) / (recent - first)) * (left - 8)
      : right + ((Math.min(t, until) - recent) / (until - recent)) * (end - right);
  return { x, gap: [left, right], now: x(now), from: first, recent, until, end };
}

export interface Tick {
  x: number;
  word: string;
}
/** Years at the left, months at the right: as many as stand beside one another without touching. */
export function ticksOf(axis: Axis, locale: string): Tick[] {
  const out: Tick[] = [];
  const month = new Intl.DateTimeFormat(locale, { month: "short", timeZone: "UTC" });
  const begin = new Date(axis.from);
  const short = axis.recent - axis.from < 540 * DAY;
  if (axis.gap && !short)
    for (let y = begin.getUTCFullYear() + 1; Date.UTC(y) < axis.recent; y++)
      out.push({ x: axis.x(Date.UTC(y)), word: String(y) });
  const near = new Date(short ? axis.from : axis.recent);
  for (let m = near.getUTCMonth() + 1; ; m++) {
    const t = Date.UTC(near.getUTCFullYear(), m);
    if (t > axis.until) break;
    // No date stands across the break.
    if (axis.gap && axis.x(t) < axis.gap[1] && axis.x(t) + 40 > axis.gap[0]) continue;
    const d = new Date(t);
    const word = d.getUTCMonth() === 0 ? `${month.format(d)} ${d.getUTCFullYear()}` : month.format(d);
    out.push({ x: axis.x(t), word });
  }
  const kept: Tick[] = [];
  for (const t of out) {
    const last = kept.at(-1);
    const room = t.x + widthOf(t.word) + 4 <= axis.end;
    if (room && (!last || t.x >= last.x + widthOf(last.word) + 8)) kept.push(t);
  }
  return kept;
}

/** The room a word takes at the size it is written in here, rather too much than too little. */
export const widthOf = (word: string) => word.length * 6.9;

export interface Said {
  x: number;
  rank: number;
  lines: [string, string];
}
export interface Placed extends Said {
  left: number;
  anchor: "start" | "end";
}
/** Which words stand over the line: the weightiest first, each only where it touches no other and no edge. */
export function placed(said: Said[], width: number): Placed[] {
  const out: Placed[] = [];
  for (const s of [...said].sort((a, b) => a.rank - b.rank || b.x - a.x)) {
    const room = Math.max(...s.lines.map(widthOf));
    for (const anchor of ["start", "end"] as const) {
      const left = anchor === "start" ? s.x - 3 : s.x + 3 - room;
      const fits = left >= 0 && left + room <= width;
      const free = out.every(
        (p) => left > p.left + Math.max(...p.lines.map(widthOf)) + 10 || left + room + 10 < p.left,
      );
      if (fits && free) {
        out.push({ ...s, left, anchor });
        break;
      }
    }
  }
  return out;
}
