/** A bench as the web knows it: the core's name of it, and its own drawings, each fetched when it is wanted. */
import type { Later, Schemas } from "../../base";
import type { Given } from "./tools";

export interface BenchDef {
  bench: string;
  /** What stands on its page, with the figures where they belong. */
  drawing: Later<{ given: Given }>;
  /** A record of it, drawn. */
  recorded?: Later<{ record: Schemas["RecordOut"] }>;
  /** What of it goes on while other pages are looked at. */
  strip?: Later;
}
const DEFINED = new Map<string, BenchDef>();
/** Called once, in `<topic>/<bench>/def.ts`; nobody has to be told of it. */
export const defineBench = (def: BenchDef): BenchDef => {
  DEFINED.set(def.bench, def);
  return def;
};
/** A bench by the core's name of it, wherever it was defined. */
export const definedBench = (name: string): BenchDef | undefined => DEFINED.get(name);
