/** Figures that are read at places of a drawing: one list, a figure of each kind at a place. */
import type { Entered } from "../base";

interface Place {
  at?: string;
}
export const fieldOf = (kind: string, at: string): string => `${kind}:${at}`;
/** The kind and the place that a field is called by; none for any other field. */
export function placeOf<K extends string>(name: string, kinds: readonly K[]): [K, string] | null {
  const [kind, at] = name.split(":");
  return at !== undefined && kinds.includes(kind as K) ? [kind as K, at] : null;
}
export function changed<S extends Place>(spots: readonly S[], at: string, more: Partial<S>): S[] {
  const known = spots.some((s) => s.at === at);
  const next = known ? [...spots] : [...spots, { at } as S];
  return next.map((s) => (s.at === at ? { ...s, ...more } : s));
}
/** A place's figure changed; a place of which nothing is left is not on the sheet. */
export function withFigure<S extends Place, K extends keyof S & string>(
  spots: readonly S[],
  kinds: readonly K[],
  kind: K,
  at: string,
  value: Entered | null,
): S[] {
  return changed(spots, at, { [kind]: value } as Partial<S>).filter((s) => kinds.some((k) => s[k]));
}
