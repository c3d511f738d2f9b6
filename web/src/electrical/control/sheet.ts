/** A control ladder as the web knows it: what is read at its places, and their names. */
import type { EntryBody, EnteredRule, Schemas } from "../../base";
import { fieldOf } from "../spots";

export type Body = EntryBody<"control">;
export type View = Schemas["ShownControlView"];
export type Control = Schemas["Control"];
export type Made = Control["elements"][number];
export type Kind = "volts" | "across" | "value";

export const READ = ["volts", "across", "value"] as const;
export const KINDS: Record<Kind, string> = {
  volts: "to the common",
  across: "across it",
  value: "process value",
};
export const SAID = ["other_coil", "cable_m", "area", "inrush"] as const;
export const ELEMENTS: [Made["kind"], string][] = [
  ["fuse", "Fuse"],
  ["estop", "Emergency stop"],
  ["stop", "Stop"],
  ["start", "Start and seal-in"],
  ["selector", "Hand-off-auto"],
  ["interlock", "Interlock"],
  ["trip", "Protective trip"],
  ["overload", "Overload contact"],
  ["other_coil", "Other coil's contact"],
];

/** Where something can be read: all of it to the common, elements across, values where there is a set point. */
export function placesOf(view: Pick<View, "elements">, kind: Kind): string[] {
  const ids = view.elements.filter((e) => !e.bypassed);
  if (kind === "value") return ids.filter((e) => e.set_point).map((e) => e.id);
  return kind === "volts" ? ["source", ...ids.map((e) => e.id)] : ids.map((e) => e.id);
}
export function rulesOf(
  rules: Record<string, EnteredRule>,
  view: Pick<View, "elements">,
): Record<string, EnteredRule> {
  const out = { ...rules };
  const places: [string, string][] = [
    ["source", "Source"],
    ...view.elements.map((e): [string, string] => [e.id, e.name]),
  ];
  for (const kind of READ)
    for (const [id, name] of places) {
      const rule = rules[kind];
      if (rule) out[fieldOf(kind, id)] = { ...rule, label: `${name}, ${KINDS[kind]}` };
    }
  return out;
}
/** An element added beneath another, under an id that nothing else has. */
export function addedBelow(control: Control, at: number, kind: Made["kind"]): Control {
  const used = new Set(control.elements.map((e) => e.id));
  let n = 1;
  while (used.has(`X${n}`)) n += 1;
  const made = { id: `X${n}`, kind, name: ELEMENTS.find(([k]) => k === kind)?.[1] ?? "" } as Made;
  return {
    ...control,
    elements: [...control.elements.slice(0, at + 1), made, ...control.elements.slice(at + 1)],
  };
}
