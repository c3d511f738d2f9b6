/** The alignment sheet as typed: its fields by instrument, which entry a field belongs to, how drawings turn to where you stand. No rule of the trade. */
import type { Schemas, SheetEntry } from "../../base";

type Parts = Schemas["PassRead"] & Omit<Schemas["Moved"], "kind"> & Omit<Schemas["VisitTakenBack"], "kind">;
export type Kind =
  | Schemas["PassRead"]["kind"]
  | Schemas["VisitWord"]["kind"]
  | Schemas["Moved"]["kind"]
  | Schemas["VisitTakenBack"]["kind"];
export type Body = Partial<Omit<Parts, "kind">> & { kind?: Kind };
export type Method = NonNullable<Body["method"]>;
export type Figure = Exclude<
  { [K in keyof Body]: NonNullable<Body[K]> extends Schemas["Entered"] ? K : never }[keyof Body],
  undefined
>;
export type Foot = "front_left" | "front_right" | "rear_left" | "rear_right";
export const FEET: Foot[] = ["front_left", "front_right", "rear_left", "rear_right"];
export const CLOCKS = [12, 3, 6, 9] as const;
export type Hour = (typeof CLOCKS)[number];

/** The outer and the inner figure at each hour, by instrument; a dial stands at zero at 12. */
export function rings(method: Method): {
  outer: string;
  inner: string;
  zeroed: boolean;
  words: [string, string];
} {
  if (method === "rim_face")
    return { outer: "rim", inner: "face", zeroed: true, words: ["rim dial", "face dial"] };
  if (method === "reverse")
    return { outer: "rim", inner: "back", zeroed: true, words: ["the motor’s dial", "the pump’s dial"] };
  if (method === "flange")
    return { outer: "gap", inner: "", zeroed: false, words: ["gap of the flange", ""] };
  return { outer: "step", inner: "gap", zeroed: false, words: ["step of the rim", "gap of the faces"] };
}
export const at = (ring: string, hour: Hour): Figure => `${ring}_${hour}` as Figure;

/** The fields in the order the hand goes round. */
export function order(method: Method): Figure[] {
  if (method === "laser") return ["offset_v", "angle_v", "offset_h", "angle_h"];
  const r = rings(method);
  const hours = r.zeroed ? ([3, 6, 9] as const) : CLOCKS;
  return [...hours.map((h) => at(r.outer, h)), ...(r.inner ? hours.map((h) => at(r.inner, h)) : [])];
}
const READINGS = [...(["straightedge", "rim_face", "reverse", "laser"] as const).flatMap(order)];
/** What is said with one pass. */
const OF_THE_PASS = [
  "taken",
  "method",
  "temperature",
  "tight",
  "carried_by",
  "face_touches",
  "note",
  ...READINGS,
] as const;
const OF_THE_SET = [
  "coupling",
  "speed",
  "face_diameter",
  "x_front",
  "x_rear",
  "plane_distance",
  "sag",
  "maker_offset",
  "maker_angle",
  "cold",
  "pump_height",
  "pump_metal",
  "pump_temperature",
  "motor_height",
  "motor_metal",
  "motor_temperature",
  "near_ambient",
  "coupling_diameter",
  "bolts",
  "torque",
  "play",
  "support_distance",
  "nut_pitch",
  "maker_gap",
  "van",
  ...FEET.map((f) => `pack_${f}` as const),
] as const satisfies readonly (keyof Body)[];
const OF_BEFORE = [
  "signs",
  "marked",
  "run_out_rim",
  "run_out_face",
  "pipe_strain",
  "springy",
  "with_pipes",
  ...FEET.flatMap((f) => [`soft_${f}`, `across_${f}`] as const),
] as const;
const OF_THE_FIT = [
  "hub_gap",
  "hub_gap_maker",
  "bare_fit",
  "keyed_fit",
  "screws_pump",
  "screws_motor",
  "floating_shaft",
  "halves_as_marked",
  "new_bolts",
  "element_renewed",
  "root",
  "guard_on",
] as const;
const GROUPS: [Kind, readonly string[]][] = [
  ["measures", OF_THE_SET],
  ["before", OF_BEFORE],
  ["fit", OF_THE_FIT],
];

const said = (v: unknown): boolean =>
  v != null &&
  v !== "" &&
  !(Array.isArray(v) && v.length === 0) &&
  !(typeof v === "object" && "text" in v && !(v as { text: string }).text.trim());
const pick = (body: Body, names: readonly string[]): Body =>
  Object.fromEntries(
    names.filter((n) => said(body[n as keyof Body])).map((n) => [n, body[n as keyof Body]]),
  ) as Body;

/** From one visit to the next: the set's own measures, how it is read here, the packs as they lie. */
export function carried(last: Record<string, unknown> | undefined): Body {
  return pick((last ?? {}) as Body, [...OF_THE_SET, "method", "carried_by", "face_touches"]);
}
/** The newest word on every field of the sheet, without the readings of its passes. */
export function held(entries: SheetEntry<Body>[]): Body {
  const undone = new Set(entries.map((e) => e.body.undoes).filter(Boolean));
  return entries
    .filter((e) => !undone.has(e.uuid))
    .reduce<Body>((all, e) => {
      const lies =
        e.body.kind === "moved"
          ? pick(
              e.body,
              FEET.map((f) => `pack_${f}`),
            )
          : {};
      return {
        ...all,
        ...(e.body.kind === "moved"
          ? lies
          : pick(e.body, [
              ...OF_THE_SET,
              ...OF_BEFORE,
              ...OF_THE_FIT,
              ...(e.body.kind === "pass" || !e.body.kind
                ? ["method", "carried_by", "face_touches", "temperature"]
                : []),
            ])),
      };
    }, {});
}
/** What is typed and not kept yet, as the entries it will make: a change of the set, what was looked at, the pass, the coupling. */
export function entriesOf(typed: Body, known: Body): Body[] {
  const out = GROUPS.flatMap(([kind, names]) => {
    const fresh = Object.fromEntries(
      Object.entries(pick(typed, names)).filter(
        ([n, v]) => JSON.stringify(v) !== JSON.stringify(known[n as keyof Body]),
      ),
    );
    return Object.keys(fresh).length ? [{ kind, ...fresh } as Body] : [];
  });
  return hasFigures(typed) ? [...out, { kind: "pass", ...pick(typed, OF_THE_PASS) }] : out;
}
export const hasFigures = (body: Body): boolean =>
  order(body.method ?? "straightedge").some((n) => said(body[n]));
export type Stand = "behind" | "pump" | "left" | "right";
export const STANDS: [Stand, string][] = [
  ["behind", "behind the motor"],
  ["left", "at its left"],
  ["pump", "at the pump"],
  ["right", "at its right"],
];
/** The feet as they lie before you: the far row, then the near row, each from your left to your right. */
export function feetFrom(stand: Stand): [Foot, Foot, Foot, Foot] {
  if (stand === "pump") return ["rear_right", "rear_left", "front_right", "front_left"];
  if (stand === "left") return ["front_right", "rear_right", "front_left", "rear_left"];
  if (stand === "right") return ["rear_left", "front_left", "rear_right", "front_right"];
  return ["front_left", "front_right", "rear_left", "rear_right"];
}
/** Where 3 and 9 stand on the clock for somebody who looks from there. */
export const mirrored = (stand: Stand): boolean => stand === "pump";
