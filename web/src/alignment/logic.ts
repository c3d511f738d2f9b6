/** The alignment sheet as typed: its fields by instrument, what is kept of the set from one time to the next. No rule of the trade. */
import type { Schemas } from "../base";

export type Body = Partial<Schemas["AlignmentEntry"]>;
export type Method = NonNullable<Body["method"]>;
export type Figure = Exclude<{ [K in keyof Body]: NonNullable<Body[K]> extends Schemas["Entered"] ? K : never }[keyof Body], undefined>;
export const CLOCKS = [12, 3, 6, 9] as const;
export type Hour = (typeof CLOCKS)[number];

/** The outer and the inner figure at each hour, by instrument; a dial stands at zero at 12. */
export function rings(method: Method): { outer: string; inner: string; zeroed: boolean; words: [string, string] } {
  if (method === "rim_face") return { outer: "rim", inner: "face", zeroed: true, words: ["rim dial", "face dial"] };
  if (method === "reverse") return { outer: "rim", inner: "back", zeroed: true, words: ["the motor’s dial", "the pump’s dial"] };
  return { outer: "step", inner: "gap", zeroed: false, words: ["step of the rim", "gap of the faces"] };
}
export const at = (ring: string, hour: Hour): Figure => `${ring}_${hour}` as Figure;

/** The fields in the order the hand goes round. */
export function order(method: Method): Figure[] {
  if (method === "laser") return ["offset_v", "angle_v", "offset_h", "angle_h"];
  const r = rings(method);
  const hours = r.zeroed ? ([3, 6, 9] as const) : CLOCKS;
  return [...hours.map((h) => at(r.outer, h)), ...hours.map((h) => at(r.inner, h))];
}
/** What belongs to the set and is asked for once. */
export const OF_THE_SET = [
  "method", "speed", "face_diameter", "x_front", "x_rear", "plane_distance", "carried_by", "face_touches", "sag", "maker_offset", "maker_angle", "cold", "pump_height", "pump_metal",
  "pump_temperature", "motor_height", "motor_metal", "motor_temperature",
] as const satisfies readonly (keyof Body)[];
export function carried(last: Record<string, unknown> | undefined): Body {
  return Object.fromEntries(OF_THE_SET.filter((n) => last?.[n] != null).map((n) => [n, last?.[n]])) as Body;
}
export const hasFigures = (body: Body): boolean => order(body.method ?? "straightedge").some((n) => Boolean(body[n]?.text.trim()));
