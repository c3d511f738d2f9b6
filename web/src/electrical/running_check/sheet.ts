/** The running check as typed: the draft, and what is sent of it. No rule of the trade. */
import type { Schemas } from "../../base";

export type Body = Partial<Schemas["RunningCheckEntry"]>;
export type FigureName = "volts_12" | "volts_23" | "volts_31" | "amps_1" | "amps_2" | "amps_3";
export const VOLTS: FigureName[] = ["volts_12", "volts_23", "volts_31"];
export const AMPS: FigureName[] = ["amps_1", "amps_2", "amps_3"];
export const STATE = ["read_at", "valve", "valve_turns", "valve_turns_full", "speed", "coupled"] as const;

export interface Draft {
  sheet: string;
  entry: string;
  body: Body;
  /** State values still standing as they were last time, not yet touched. */
  carried: string[];
  /** When the first figure was typed, by the server's clock. */
  begun: string;
  reason: string;
}
export function emptyDraft(): Draft {
  return {
    sheet: crypto.randomUUID(),
    entry: crypto.randomUUID(),
    body: {},
    carried: [],
    begun: "",
    reason: "",
  };
}
export function hasFigures(body: Body): boolean {
  return [...VOLTS, ...AMPS].some((n) => Boolean(body[n]?.text.trim()));
}
/** The state as it was last time, in pencil until it is touched. */
export function carryState(draft: Draft, last: Record<string, unknown> | undefined): Draft {
  if (!last || draft.carried.length || STATE.some((s) => draft.body[s] != null)) return draft;
  const carried = STATE.filter((s) => last[s] != null);
  const state = Object.fromEntries(carried.map((s) => [s, last[s]])) as Body;
  return { ...draft, body: { ...draft.body, ...state }, carried };
}
/** The fields in the order the hand goes: volts, then amps. */
export function order(phases: number): FigureName[] {
  return phases === 1 ? ["volts_12", "amps_1"] : [...VOLTS, ...AMPS];
}
export function nextField(fields: FigureName[], now: FigureName): FigureName {
  return fields[(fields.indexOf(now) + 1) % fields.length] ?? now;
}
