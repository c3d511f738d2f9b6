/**
 * The alignment sheet as typed: its fields by instrument, which entry a field belongs to, how drawings turn
 * to where you stand. No rule of the trade.
 */
import {
  isSaid,
  keptFields,
  newest,
  ownFields,
  type EntryBody,
  type KeptAs,
  type Schemas,
  type SheetEntry,
} from "../../base";

export type Body = EntryBody<"alignment">;
export type Kind = NonNullable<Body["kind"]>;
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
    return { outer: "rim", inner: "back", zeroed: true, words: ["motor-side dial", "pump-side dial"] };
  if (method === "flange") return { outer: "gap", inner: "", zeroed: false, words: ["flange gap", ""] };
  return { outer: "step", inner: "gap", zeroed: false, words: ["rim step", "face gap"] };
}
export const at = (ring: string, hour: Hour): Figure => `${ring}_${hour}` as Figure;

/** The fields in the order the hand goes round. */
export function order(method: Method): Figure[] {
  if (method === "laser") return ["offset_v", "angle_v", "offset_h", "angle_h"];
  const r = rings(method);
  const hours = r.zeroed ? ([3, 6, 9] as const) : CLOCKS;
  return [...hours.map((h) => at(r.outer, h)), ...(r.inner ? hours.map((h) => at(r.inner, h)) : [])];
}
const PACKS = FEET.map((f) => `pack_${f}` as const);
/** How it is read here: said with a pass, and meant until another pass says otherwise. */
const READ_WITH = ["method", "carried_by", "face_touches"] as const;
const OF_A_PASS = [...READ_WITH, "temperature"] as const;

const pick = (body: Body, names: readonly string[]): Body =>
  Object.fromEntries(
    names.filter((n) => isSaid(body[n as keyof Body])).map((n) => [n, body[n as keyof Body]]),
  ) as Body;

/** The sheet's fields by what the core's schema says of them: the kind of entry each is said in. */
export interface Fields {
  kept: Map<string, KeptAs>;
  /** What counts for one pass alone. */
  pass: string[];
}
export const fieldsOf = (schema: unknown): Fields => ({
  kept: keptFields(schema),
  pass: ownFields(schema, "pass").filter((n) => !(PACKS as string[]).includes(n)),
});
const ofTheSet = ({ kept }: Fields) => [
  ...[...kept].flatMap(([name, as]) => (as.kept === "set" ? [name] : [])),
  ...PACKS,
];
const ofTheVisit = ({ kept }: Fields, kind: Kind) =>
  [...kept].flatMap(([name, as]) => (as.kept === "visit" && (as.saidIn || "before") === kind ? [name] : []));

/** From one visit to the next: the set's own measures, how it is read here, the packs as they lie. */
export function carried(last: Record<string, unknown> | undefined, fields: Fields): Body {
  return pick((last ?? {}) as Body, [...ofTheSet(fields), ...READ_WITH]);
}
/** The newest word on every field of the sheet, without the readings of its passes. */
export function held(entries: SheetEntry<Body>[], { kept }: Fields): Body {
  return newest(entries, [...kept.keys(), ...PACKS, ...OF_A_PASS], ["try"]);
}
/**
 * What is typed and not kept yet, as the entries it will make: a change of the set, what was looked at, the
 * coupling, the pass.
 */
export function entriesOf(typed: Body, known: Body, fields: Fields): Body[] {
  const groups: [Kind, string[]][] = [
    ["measures", ofTheSet(fields)],
    ["before", ofTheVisit(fields, "before")],
    ["fit", ofTheVisit(fields, "fit")],
  ];
  const out = groups.flatMap(([kind, names]) => {
    const fresh = Object.fromEntries(
      Object.entries(pick(typed, names)).filter(
        ([n, v]) => JSON.stringify(v) !== JSON.stringify(known[n as keyof Body]),
      ),
    );
    return Object.keys(fresh).length ? [{ kind, ...fresh } as Body] : [];
  });
  return hasFigures(typed) ? [...out, { kind: "pass", ...pick(typed, fields.pass) }] : out;
}
export const hasFigures = (body: Body): boolean =>
  order(body.method ?? "straightedge").some((n) => isSaid(body[n]));
export type Stand = "behind" | "pump" | "left" | "right";
export const STANDS: [Stand, string][] = [
  ["behind", "behind the motor"],
  ["left", "left of the motor"],
  ["pump", "at the pump end"],
  ["right", "right of the motor"],
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
