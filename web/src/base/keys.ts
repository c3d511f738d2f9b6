/** Keys for frequent actions. `?` lists what is registered. */
import { useEffect, useRef } from "react";

export interface Key {
  key: string;
  does: string;
  run: () => void;
  /** Works while a field is in hand (needs Ctrl). */
  ctrl?: boolean;
}
const registered = new Set<Key>();
export const listKeys = (): Key[] => [...registered];

function typing(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement &&
    (target.isContentEditable || ["INPUT", "TEXTAREA", "SELECT"].includes(target.tagName))
  );
}
if (typeof window !== "undefined") {
  window.addEventListener("keydown", (e) => {
    if (e.defaultPrevented || e.altKey || document.querySelector(".modal.show")) return;
    const withCtrl = e.ctrlKey || e.metaKey;
    if (!withCtrl && typing(e.target)) return;
    for (const k of registered) {
      if (k.key === e.key && Boolean(k.ctrl) === withCtrl) {
        e.preventDefault();
        k.run();
        return;
      }
    }
  });
}
export function useKeys(keys: Key[]) {
  const latest = useRef(keys);
  useEffect(() => {
    latest.current = keys;
  });
  const names = keys.map((k) => `${k.key}|${k.does}`).join();
  useEffect(() => {
    const mine = latest.current.map((k, i) => ({ ...k, run: () => latest.current[i]?.run() }));
    mine.forEach((k) => registered.add(k));
    return () => mine.forEach((k) => registered.delete(k));
  }, [names]);
}
