/** The words of this room's choices, each in the sentence it stands in. */
export const LIQUIDS = [
  ["", "liquid?"],
  ["water", "water"],
  ["seawater", "seawater"],
  ["propylene", "propylene glycol"],
  ["ethylene", "ethylene glycol"],
  ["other", "another liquid"],
] as const;
export const BY = [
  ["", "by mass or volume?"],
  ["mass", "by mass"],
  ["volume", "by volume"],
] as const;
export const VALVES = [
  ["", "valve?"],
  ["open", "open"],
  ["throttled", "throttled"],
  ["shut", "shut"],
] as const;
export const OTHERS = [
  ["", "alone?"],
  ["alone", "alone"],
  ["with", "with others"],
] as const;
export const HEIGHTS = [
  ["", "at which height?"],
  ["own", "at their own heights"],
  ["centre", "corrected to the pump centre"],
] as const;
export const PRESSURES = [
  ["gauge", "gauge pressure"],
  ["absolute", "absolute pressure"],
] as const;
export const CLASSES = [
  ["", "class?"],
  ["0.6", "class 0.6"],
  ["1", "class 1"],
  ["1.6", "class 1.6"],
  ["2.5", "class 2.5"],
] as const;
export const FLOORS = [
  ["", "needed by?"],
  ["chiller", "the chiller"],
  ["boiler", "the boiler"],
  ["exchanger", "the exchanger"],
  ["pump", "the pump"],
  ["none", "nothing"],
] as const;
export const YES_NO = [
  ["", "not said"],
  ["yes", "yes"],
  ["no", "no"],
] as const;
export const FLUID_KEPT = ["fluid", "glycol", "glycol_by"];
export const GAUGE_KEPT = [
  "pressures",
  "heights",
  "suction_z",
  "discharge_z",
  "suction_bore",
  "discharge_bore",
  "suction_top",
  "discharge_top",
  "gauge_class",
];
export const LEG_KEPT = ["idle_amps", "motor_eff"];
export const LEGS = ["amps_1", "amps_2", "amps_3"];
