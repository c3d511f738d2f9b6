/** The benches as the core declares them, and how they are reached. */
import type { ComponentType } from "react";
import type { Schemas } from "./client";
import { useGet } from "./queries";

export type BenchOut = Schemas["BenchOut"];
/** A page or drawing that is fetched when it is first wanted. */
export type Later<P = object> = () => Promise<ComponentType<P>>;

/** Asked once; the same until the page is loaded anew. */
export const useBenches = () => useGet("/api/v1/benches", {}, { staleTime: Infinity });

export const benchPath = (setId: number | string, bench: string) =>
  `/sets/${setId}/${bench.replaceAll("_", "-")}`;
/** The overhaul of a set, opened because of what stands there: a verdict, a call, a check that is due. */
export const becausePath = (
  setId: number | string,
  { from, of, says }: { from: string; of: string; says: string },
) => `${benchPath(setId, "job")}?${new URLSearchParams({ from, of, says: says.slice(0, 300) }).toString()}`;
/** Those that this set can have. */
export const benchesOf = (
  all: BenchOut[] | undefined,
  set: { kind?: string; slots: string[]; components?: { kind: string }[] },
) =>
  (all ?? []).filter(
    (b) =>
      (!b.slot || set.slots.includes(b.slot)) &&
      (!b.sets?.length || b.sets.includes(set.kind ?? "")) &&
      (!b.kinds?.length || set.components?.some((c) => b.kinds.includes(c.kind))),
  );
