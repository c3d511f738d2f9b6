/** What this person reads with, by what it measures: kept on the device, so that it stands without a signal as well. */
import { useSyncExternalStore } from "react";

/** Dimension to the number of an instrument in the register. */
export type Hand = Record<string, string>;
const NOTHING: Hand = {};
const KEY = "hurbin-hand:";
const held = new Map<string, Hand>();
const heard = new Set<() => void>();

/** Whose hand: a person on a site. */
export const handOf = (user: string, site: number) => `${user}:${site}`;

function read(whose: string): Hand {
  const there = held.get(whose);
  if (there) return there;
  let found = NOTHING;
  try {
    found = JSON.parse(localStorage.getItem(KEY + whose) ?? "{}") as Hand;
  } catch {
    localStorage.removeItem(KEY + whose);
  }
  held.set(whose, found);
  return found;
}
export function holdInHand(whose: string, next: Hand) {
  if (JSON.stringify(read(whose)) === JSON.stringify(next)) return;
  held.set(whose, next);
  localStorage.setItem(KEY + whose, JSON.stringify(next));
  heard.forEach((h) => h());
}
export const useHand = (whose: string): Hand =>
  useSyncExternalStore(
    (tell) => {
      heard.add(tell);
      return () => heard.delete(tell);
    },
    () => read(whose),
  );
