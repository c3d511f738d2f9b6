/** Marks as the core says them, shortened: for trying a stopwatch by itself. */
import type { Mark } from "./logic";

export const marksAt = (...seconds: number[]): Mark[] =>
  seconds.map((second) => ({ second, asked: second - 4, until: second + 12, within: 4 }));
