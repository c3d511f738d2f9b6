/**
 * The insulation test as the page sees it: what was said last, which run is under way, how its clock stands.
 * No rule of the trade.
 */
import { counted, type Entered, type EntryBody, type Schemas, type SheetEntry } from "../../base";

export type Body = EntryBody<"insulation">;
export type Entry = SheetEntry<Body>;
export type Leg = NonNullable<Body["leg"]>;
export type Mark = Schemas["RunMark"];
export const LEG_WORD: Record<Leg, string> = { all: "whole winding", L1: "L1", L2: "L2", L3: "L3" };
export type SetupFigure = "test_volts" | "winding" | "ambient" | "humidity" | "ceiling";

export interface Clock {
  leg: Leg;
  startedAt: number;
  endedAt: number | null;
  dischargedAt: number | null;
}
/** The newest run: of the leg that volts were put on last. */
export function clockOf(entries: Entry[]): Clock | null {
  let clock: Clock | null = null;
  for (const { body, taken_at } of counted(entries)) {
    const at = Date.parse(taken_at);
    if (body.kind === "start")
      clock = { leg: body.leg ?? "all", startedAt: at, endedAt: null, dischargedAt: null };
    else if (clock && (body.leg ?? "all") === clock.leg) {
      if (body.kind === "end" && clock.endedAt === null) clock.endedAt = at;
      if (body.kind === "discharged") clock.dischargedAt = at;
    }
  }
  return clock;
}
export interface Row {
  uuid: string;
  leg: Leg;
  second: number;
  ohms: Entered;
}
/** The readings that stand, by leg and second. */
export function rowsOf(entries: Entry[]): Row[] {
  const started: Partial<Record<Leg, number>> = {};
  const rows: Row[] = [];
  for (const { uuid, body, taken_at } of counted(entries)) {
    const { leg: said, ohms } = body;
    const leg = said ?? "all";
    if (body.kind === "start") started[leg] = Date.parse(taken_at);
    if (body.kind !== "reading" || !ohms) continue;
    const since = started[leg];
    const second = body.seconds ?? (since === undefined ? 0 : (Date.parse(taken_at) - since) / 1000);
    rows.push({ uuid, leg, second, ohms });
  }
  return rows.sort((a, b) => a.leg.localeCompare(b.leg) || a.second - b.second);
}
/** A stretch of time as a stopwatch shows it. */
export function watch(seconds: number): string {
  const whole = Math.max(0, Math.floor(seconds));
  const [m, s] = [Math.floor(whole / 60), whole % 60];
  return `${String(m).padStart(2, "0")}:${String(s).padStart(2, "0")}`;
}
/** The mark that is asked for now, by the core's times and not read yet; and the one that comes next. */
export function markNow(marks: Mark[], taken: number[], elapsed: number) {
  const open = (m: Mark) =>
    elapsed >= m.asked && elapsed <= m.until && !taken.some((t) => Math.abs(t - m.second) <= m.within);
  return {
    due: marks.findLast(open)?.second ?? null,
    next: marks.find((m) => m.second > elapsed)?.second ?? null,
  };
}
