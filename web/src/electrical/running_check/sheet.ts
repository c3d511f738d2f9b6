/** The running check as typed: its figures in the order of the hand, and what of its state is kept. No rule of the trade. */
import type { EntryBody } from "../../base";

export type Body = EntryBody<"running_check">;
export const VOLTS = ["volts_12", "volts_23", "volts_31"] as const;
export const AMPS = ["amps_1", "amps_2", "amps_3"] as const;
export type FigureName = (typeof VOLTS)[number] | (typeof AMPS)[number];
/** As it was last time, in pencil until it is touched. */
export const STATE = ["read_at", "valve", "valve_turns", "valve_turns_full", "speed", "coupled"] as const;

/** The fields in the order the hand goes: volts, then amps. */
export function order(phases: number): FigureName[] {
  return phases === 1 ? ["volts_12", "amps_1"] : [...VOLTS, ...AMPS];
}
