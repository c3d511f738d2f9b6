/** A scan as the web keeps it: one figure per place, and the places that are read together. */
import type { EntryBody, EnteredRule, Schemas } from "../../base";
import { fieldOf } from "../spots";

export type Body = EntryBody<"joints">;
export type Spot = NonNullable<Body["spots"]>[number];
export type View = Schemas["ShownJointsView"];
export type Kind = "temp" | "drop";
export type Picture = Schemas["Picture"];

export const SAID = ["amps_1", "amps_2", "amps_3", "ambient", "distance", "ratio", "width"] as const;
export const READ = ["temp", "drop"] as const;

/** The places across the legs that one row of the ladder reads: a rung for temperatures, an element for drops. */
export function rowsOf(view: Pick<View, "rungs" | "elements">, kind: Kind): string[] {
  if (kind === "temp") return view.rungs.map((r) => r.id);
  const across = view.elements.filter((e) => !["motor", "drive", "soft_starter"].includes(e.kind));
  return across.map((e) => e.id).filter((id) => view.rungs.filter((r) => r.element === id).length === 2);
}
export const placesOf = (row: string, legs: number): string[] =>
  Array.from({ length: legs }, (_, i) => `${row}.${i + 1}`);

/** What each field of a row takes: as the figure of one place, called by where it is. */
export function rulesOf(
  rules: Record<string, EnteredRule>,
  view: Pick<View, "rungs" | "elements" | "legs">,
): Record<string, EnteredRule> {
  const out = { ...rules };
  const put = (kind: Kind, row: string, title: string) =>
    placesOf(row, view.legs.length).forEach((at, i) => {
      const rule = rules[kind];
      if (rule) out[fieldOf(kind, at)] = { ...rule, label: `${title}, ${view.legs[i] ?? ""}` };
    });
  view.rungs.forEach((r) => put("temp", r.id, r.title));
  view.elements.forEach((e) => put("drop", e.id, `Across ${e.name}`));
  return out;
}

/** The tenths of °C of a picture, cell by cell. */
export function tenthsOf(picture: Picture): Int16Array {
  const raw = atob(picture.cells);
  const bytes = Uint8Array.from(raw, (c) => c.charCodeAt(0));
  return new Int16Array(bytes.buffer);
}
export function shownAt(picture: Picture, x: number, y: number): string {
  const column = Math.min(picture.width - 1, Math.floor(x * picture.width));
  const row = Math.min(picture.height - 1, Math.floor(y * picture.height));
  const tenths = tenthsOf(picture)[row * picture.width + column] ?? 0;
  return String(tenths / 10);
}

/** The places as they were read, on no picture. */
export const unplaced = (spots: readonly Spot[]): Spot[] => spots.map((s) => ({ ...s, x: null, y: null }));
