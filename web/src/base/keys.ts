/**
 * Keys for frequent actions, on one scope: the page. What lies over it, a finder or a question, takes them
 * all. `?` lists what is registered.
 */
import { useEffect, useRef } from "react";
import { useHotkeys, useHotkeysContext } from "react-hotkeys-hook";

export interface Key {
  key: string;
  does: string;
  run: () => void;
  /** Works while a field is in hand (needs Ctrl). */
  ctrl?: boolean;
}
export const PAGE_KEYS = "page";
const registered = new Set<Key>();
export const listKeys = (): Key[] => [...registered];

const combo = (k: Key) => `${k.ctrl ? "mod+" : ""}${k.key.toLowerCase()}`;

export function useKeys(keys: Key[]) {
  const latest = useRef(keys);
  useEffect(() => {
    latest.current = keys;
  });
  const run = (hotkey: string) => latest.current.find((k) => combo(k) === hotkey)?.run();
  const common = { useKey: true, preventDefault: true, scopes: PAGE_KEYS } as const;
  useHotkeys(keys.filter((k) => k.ctrl).map(combo), (_, pressed) => run(pressed.hotkey), {
    ...common,
    enableOnFormTags: true,
  });
  // A sign may be made with Shift, as ? is: which sign it is counts, not how.
  useHotkeys(keys.filter((k) => !k.ctrl).map(combo), (_, pressed) => run(pressed.hotkey), {
    ...common,
    ignoreModifiers: true,
    ignoreEventWhen: (e) => e.ctrlKey || e.metaKey || e.altKey,
  });
  const names = keys.map((k) => `${k.key}|${k.does}`).join();
  useEffect(() => {
    const mine = latest.current.map((k, i) => ({ ...k, run: () => latest.current[i]?.run() }));
    mine.forEach((k) => registered.add(k));
    return () => mine.forEach((k) => registered.delete(k));
  }, [names]);
}
/** While something lies over the page, its keys are nobody's. */
export function useQuiet(over: boolean) {
  const { enableScope, disableScope } = useHotkeysContext();
  useEffect(() => {
    if (!over) return undefined;
    disableScope(PAGE_KEYS);
    return () => enableScope(PAGE_KEYS);
  }, [over, enableScope, disableScope]);
}
