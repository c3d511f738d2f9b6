import { useGet, type Schemas } from "../base";

export type Site = Schemas["SiteOut"];
export type SetOut = Schemas["SetOut"];
export type Component = Schemas["ComponentOut"];

export const useSites = () => useGet("/api/v1/sites", {});
export const useKinds = () => useGet("/api/v1/kinds", {}, { staleTime: Infinity });
export const useSet = (id: number) => useGet("/api/v1/sets/{set_id}", { set_id: id });
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

/** Three letters find a set by tag, place, name or nickname. */
export function findSets<T extends { tag: string; name: string; place: string; nickname: string }>(
  sets: T[],
  text: string,
): T[] {
  const wanted = text.toLowerCase().split(/\s+/).filter(Boolean);
  if (!wanted.length) return [];
  const score = (s: T): number => {
    const all = `${s.tag} ${s.name} ${s.place} ${s.nickname}`.toLowerCase();
    if (!wanted.every((w) => all.includes(w))) return 0;
    const first = wanted[0] ?? "";
    if (s.tag.toLowerCase().startsWith(first)) return 4;
    if (s.nickname.toLowerCase().includes(first)) return 3;
    return s.tag.toLowerCase().includes(first) ? 2 : 1;
  };
  return sets
    .map((s) => ({ s, n: score(s) }))
    .filter((x) => x.n > 0)
    .sort((a, b) => b.n - a.n || a.s.tag.localeCompare(b.s.tag))
    .map((x) => x.s);
}
