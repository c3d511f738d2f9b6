/** The insulation test as the page sees it: what was said last, which run is under way, how its clock stands. No rule of the trade. */
import type { Entered, Schemas, SheetEntry } from "../../base";

type Parts = Omit<Schemas["TestSetup"], "kind"> &
  Omit<Schemas["TestReading"], "kind"> &
  Omit<Schemas["TestTakenBack"], "kind">;
type Kind =
  | Schemas["TestSetup"]["kind"]
  | Schemas["TestLeg"]["kind"]
  | Schemas["TestReading"]["kind"]
  | Schemas["TestTakenBack"]["kind"];
export type Body = Partial<Parts> & { kind?: Kind };
export type Entry = SheetEntry<Body>;
export type Leg = "all" | "L1" | "L2" | "L3";
export const LEG_WORD: Record<Leg, string> = { all: "the winding", L1: "L1", L2: "L2", L3: "L3" };
export const FIGURES = ["test_volts", "winding", "ambient", "humidity", "ceiling"] as const;
export type SetupFigure = (typeof FIGURES)[number];
const SAID = [
  "test_point",
  "links",
  "phases",
  "drive_off",
  "arresters_off",
  "tester",
  "note",
  ...FIGURES,
] as const;

/** What an entry is: the server leaves out what is usual. */
const kindOf = (e: Entry) => e.body.kind ?? "setup";

/** The newest word on every part of the setup. */
export function said(entries: Entry[]): Body {
  const undone = undoneOf(entries);
  const out: Record<string, unknown> = {};
  for (const e of entries) {
    if (kindOf(e) !== "setup" || undone.has(e.uuid)) continue;
    for (const name of SAID) if (e.body[name] != null && e.body[name] !== "") out[name] = e.body[name];
  }
  return out as Body;
}
const undoneOf = (entries: Entry[]) =>
  new Set(entries.filter((e) => e.body.kind === "undo").map((e) => e.body.undoes ?? ""));

export interface Clock {
  leg: Leg;
  startedAt: number;
  endedAt: number | null;
  dischargedAt: number | null;
}
/** The newest run: of the leg that volts were put on last. */
export function clockOf(entries: Entry[]): Clock | null {
  const undone = undoneOf(entries);
  let clock: Clock | null = null;
  for (const e of entries) {
    if (undone.has(e.uuid)) continue;
    const at = Date.parse(e.taken_at);
    if (e.body.kind === "start")
      clock = { leg: (e.body.leg ?? "all") as Leg, startedAt: at, endedAt: null, dischargedAt: null };
    else if (clock && (e.body.leg ?? "all") === clock.leg) {
      if (e.body.kind === "end" && clock.endedAt === null) clock.endedAt = at;
      if (e.body.kind === "discharged") clock.dischargedAt = at;
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
  const undone = undoneOf(entries);
  const started: Record<string, number> = {};
  const rows: Row[] = [];
  for (const e of entries) {
    const leg = (e.body.leg ?? "all") as Leg;
    if (undone.has(e.uuid)) continue;
    if (e.body.kind === "start") started[leg] = Date.parse(e.taken_at);
    if (e.body.kind !== "reading" || !e.body.ohms) continue;
    const since = started[leg];
    const second = e.body.seconds ?? (since === undefined ? 0 : (Date.parse(e.taken_at) - since) / 1000);
    rows.push({ uuid: e.uuid, leg, second, ohms: e.body.ohms });
  }
  return rows.sort((a, b) => a.leg.localeCompare(b.leg) || a.second - b.second);
}
/** A stretch of time as a stopwatch shows it. */
export function watch(seconds: number): string {
  const whole = Math.max(0, Math.floor(seconds));
  const [m, s] = [Math.floor(whole / 60), whole % 60];
  return `${String(m).padStart(2, "0")}:${String(s).padStart(2, "0")}`;
}
/** The mark that is due: the first not yet read that is near or past; and the one that comes next. */
export function markNow(
  marks: number[],
  taken: number[],
  elapsed: number,
): { due: number | null; next: number | null } {
  const near = (mark: number) => taken.some((t) => Math.abs(t - mark) <= Math.max(4, mark * 0.08));
  const due =
    [...marks].reverse().find((m) => elapsed >= m - 3 && elapsed <= m + Math.max(12, m * 0.1) && !near(m)) ??
    null;
  return { due, next: marks.find((m) => m > elapsed) ?? null };
}
