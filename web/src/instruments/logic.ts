/** Which instruments measure what, and where their time lies on the board: no judging, the core says how each stands. */
import type { Instrument, Register } from "./queries";

/** Those in service that measure this. */
export const readers = (register: Register, reads: string): Instrument[] =>
  register.instruments
    .filter((i) => i.until === null && i.spans.some((s) => s.reads === reads))
    // The register has first what needs somebody; here first what can be read with.
    .reverse();

interface Group {
  tool: Instrument | null;
  words: string;
}
/** What is chosen, each instrument once with all that it reads here; last what nothing is chosen for. */
export function groups(asked: string[], hand: Record<string, string>, register: Register): Group[] {
  const by = new Map<Instrument | null, string[]>();
  for (const reads of asked) {
    const tool = register.instruments.find((i) => String(i.id) === hand[reads]) ?? null;
    by.set(tool, [...(by.get(tool) ?? []), register.words[reads] ?? reads]);
  }
  return [...by]
    .map(([tool, words]) => ({ tool, words: words.join(", ") }))
    .sort((a, b) => Number(a.tool === null) - Number(b.tool === null));
}

const DAY = 86_400_000;
/** The board's stretch of time: a year back, a year on, in whole months. */
export interface Stretch {
  from: number;
  to: number;
  months: { at: number; first: boolean; date: Date }[];
}
export function stretch(today: Date): Stretch {
  const first = (n: number) => Date.UTC(today.getUTCFullYear(), today.getUTCMonth() + n, 1);
  const from = first(-11);
  const to = first(14);
  const months = Array.from({ length: 25 }, (_, i) => {
    const date = new Date(first(i - 11));
    return { at: part(date.getTime(), { from, to }), first: date.getUTCMonth() === 0, date };
  });
  return { from, to, months };
}
/** Where a moment lies on the stretch, 0 to 1. */
export const part = (at: number, s: { from: number; to: number }): number =>
  Math.min(1, Math.max(0, (at - s.from) / (s.to - s.from)));

export interface Band {
  from: number;
  to: number;
}
/** The time in which it counts, from its first day through its last. */
export function band(since: string, last: string | null, s: Stretch): Band {
  const end = last === null ? s.to : Date.parse(last) + DAY;
  return { from: part(Date.parse(since), s), to: part(end, s) };
}
/** The time since it ran out; null: it has not. */
export function gap(last: string | null, today: Date, s: Stretch): Band | null {
  if (last === null || Date.parse(last) + DAY >= today.getTime()) return null;
  return { from: part(Date.parse(last) + DAY, s), to: part(today.getTime(), s) };
}
