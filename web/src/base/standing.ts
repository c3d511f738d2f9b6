/**
 * What stands of a sheet whose entries add to one another: by what the core's schema says of each field, for
 * every bench.
 */
import type { SheetEntry } from "./sheets";

interface Field {
  "x-kept"?: string;
  "x-said-in"?: string;
}
interface Model {
  properties?: Record<string, Field>;
  $defs?: Record<string, Model>;
}
/** With what a field is kept (the set, the visit); and the kind of entry that it is said in by itself, where it has one. */
export interface KeptAs {
  kept: string;
  saidIn: string;
}
/** The fields whose newest word counts. */
export function keptFields(schema: unknown): Map<string, KeptAs> {
  const { $defs = {}, ...self } = schema as Model;
  const out = new Map<string, KeptAs>();
  for (const model of [self, ...Object.values($defs)])
    for (const [name, of] of Object.entries(model.properties ?? {})) {
      const { "x-kept": kept = "entry", "x-said-in": saidIn = "" } = of;
      if (kept !== "entry" && !out.has(name)) out.set(name, { kept, saidIn });
    }
  return out;
}
/** What is said in one entry of this kind and counts for it alone. */
export function ownFields(schema: unknown, kind: string): string[] {
  const { $defs = {} } = schema as Model;
  const model = Object.values($defs).find((m) => {
    const { const: only, enum: some } = (m.properties?.kind ?? {}) as { const?: string; enum?: string[] };
    return only === kind || some?.includes(kind);
  });
  return Object.entries(model?.properties ?? {}).flatMap(([name, of]) =>
    name !== "kind" && (of["x-kept"] ?? "entry") === "entry" ? [name] : [],
  );
}
/** Was anything said here? An empty figure, an empty list, no word: no. */
export const isSaid = (v: unknown): boolean =>
  v != null &&
  v !== "" &&
  !(Array.isArray(v) && v.length === 0) &&
  !(typeof v === "object" && "text" in v && !String(v.text).trim());

interface Told {
  kind?: string;
  undoes?: string | null;
}
/** The entries that nobody took back. */
export function counted<B extends Told>(entries: SheetEntry<B>[]): SheetEntry<B>[] {
  const back = new Set(entries.map((e) => e.body.undoes).filter(Boolean));
  return entries.filter((e) => e.body.kind !== "undo" && !back.has(e.uuid));
}
/** The newest word on each of these fields. */
export function newest<B extends Told>(
  entries: SheetEntry<B>[],
  fields: Iterable<string>,
  pencil: readonly string[] = [],
): B {
  const names = [...fields];
  const out: Record<string, unknown> = {};
  for (const { body } of counted(entries))
    if (!pencil.includes(body.kind ?? ""))
      for (const name of names) if (isSaid(body[name as keyof B])) out[name] = body[name as keyof B];
  return out as B;
}
