import { matchSorter } from "match-sorter";
import { useGet, type Schemas } from "../base";

export type Site = Schemas["SiteOut"];
export type SetOut = Schemas["SetOut"];
export type Component = Schemas["ComponentOut"];

export const useSites = () => useGet("/api/v1/sites", {});
export const useKinds = () => useGet("/api/v1/kinds", {}, { staleTime: Infinity });
export const useSet = (id: number | null) =>
  useGet("/api/v1/sets/{set_id}", id === null ? null : { set_id: id });
export const useRegister = (site: number | null) =>
  useGet("/api/v1/sites/{site_id}/register", site === null ? null : { site_id: site });

/** The kind of a set by its id: posture and slots for its drawing. */
export function useKind(): (id: string) => Schemas["Kind"] | undefined {
  const kinds = useKinds();
  return (id) => kinds.data?.kinds.find((k) => k.id === id);
}
const KEY = "hurbin-site";
export function chosenSite(sites: Site[] | undefined): Site | undefined {
  const kept = Number(localStorage.getItem(KEY));
  return sites?.find((s) => s.id === kept) ?? sites?.[0];
}
export const chooseSite = (id: number) => localStorage.setItem(KEY, String(id));

/** Three letters find a set by tag, nickname, name or place, in this order; of several words each must be there. */
export function findSets<T extends { tag: string; name: string; place: string; nickname: string }>(
  sets: T[],
  text: string,
): T[] {
  const words = text.split(/\s+/).filter(Boolean);
  if (!words.length) return [];
  const keys = ["tag", "nickname", "name", "place"];
  const threshold = matchSorter.rankings.CONTAINS;
  const baseSort = (a: { item: T }, b: { item: T }) => a.item.tag.localeCompare(b.item.tag);
  // The first word ranks them: it is applied last.
  return words.reduceRight((left, word) => matchSorter(left, word, { keys, threshold, baseSort }), sets);
}
