/** The sheet of ohms as the web knows it: which figures belong to what was measured, in the order of the hand. */
import type { EntryBody } from "../../base";

export type Body = EntryBody<"ohms">;
export type Of = NonNullable<Body["of"]>;

export const INPUT = ["r", "s", "t"] as const;
export const OUTPUT = ["u", "v", "w"] as const;
export const LEGS = [...INPUT, ...OUTPUT] as const;
export const PAIRS = ["pair_12", "pair_23", "pair_31"] as const;
export const SINGLE = ["common_run", "common_start", "run_start"] as const;
export const GROUNDS = ["ground_1", "ground_2", "ground_3"] as const;
export const POLES = ["pole_1", "pole_2", "pole_3"] as const;
export const SENSORS = ["thermistor", "moisture", "moisture_least"] as const;
export const LINES = ["line_rs", "line_st", "line_tr"] as const;

const FIGURES: Record<Of, readonly string[]> = {
  winding: [...PAIRS, ...GROUNDS],
  single_phase: SINGLE,
  contacts: POLES,
  capacitor: ["marked", "read_uf", "cap_volts", "cap_amps"],
  sensors: SENSORS,
  drive: ["bus", ...LEGS.flatMap((x) => [`minus_${x}`, `plus_${x}`]), ...LINES, "bus_first", "bus_between"],
};
export const figuresOf = (of: Of): readonly string[] => FIGURES[of];

/** Everything whose being typed makes a sheet worth putting on record. */
export const ALL: readonly string[] = Object.values(FIGURES).flat();

export const NAMES: Record<Of, string> = {
  winding: "the windings",
  single_phase: "the single-phase windings",
  contacts: "the contact poles",
  capacitor: "the capacitor",
  drive: "the drive",
  sensors: "the sensors in the motor",
};
