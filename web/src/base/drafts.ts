/** What was typed and not yet saved: kept on the device at every keystroke, per person and place. */
import { useCallback, useEffect, useRef, useState } from "react";
import { alone, channel, store } from "./store";

/** Written here first, at once and without waiting; gone from here when the store has it. */
const JOURNAL = "hurbin-draft:";
interface Told {
  key: string;
  value: unknown;
}
const held = new Map<string, unknown>();
const heard = new Set<(told: Told) => void>();
/** Typed in another tab of this device: this one shows it, too. */
const tell = channel<Told>("drafts", (told) => {
  if (told.value === null) held.delete(told.key);
  else held.set(told.key, told.value);
  heard.forEach((h) => h(told));
});

function journal(): [string, unknown][] {
  const out: [string, unknown][] = [];
  for (const name of Object.keys(localStorage)) {
    if (!name.startsWith(JOURNAL)) continue;
    try {
      out.push([name.slice(JOURNAL.length), JSON.parse(localStorage.getItem(name) ?? "") as unknown]);
    } catch {
      localStorage.removeItem(name);
    }
  }
  return out;
}
/** So long the first page waits for the store; an older page in another tab may hold it longer. */
const PATIENCE_MS = 2000;
/** Read once, before the first page: what was typed in the moment of a kill, and what the store holds. */
export async function openDrafts(): Promise<void> {
  for (const [key, value] of journal()) {
    held.set(key, value);
    void settle(key);
  }
  await Promise.race([fromStore(), new Promise((on) => setTimeout(on, PATIENCE_MS))]);
}
async function fromStore() {
  try {
    for (const { key, value } of await (await store()).getAll("drafts")) {
      // The journal is newer, and so is what was typed while this was waited for.
      if (held.has(key)) continue;
      held.set(key, value);
      heard.forEach((h) => h({ key, value }));
    }
  } catch {
    // No store in this browser: the journal alone keeps what is typed.
  }
}
/** Into the store; what was typed meanwhile stays in the journal until its own turn. */
async function settle(key: string) {
  try {
    await alone(`draft-${key}`, async () => {
      const text = localStorage.getItem(JOURNAL + key);
      const work = (await store()).transaction("drafts", "readwrite");
      if (held.has(key)) void work.store.put({ key, value: held.get(key) });
      else void work.store.delete(key);
      work.commit();
      await work.done;
      if (text !== null && localStorage.getItem(JOURNAL + key) === text)
        localStorage.removeItem(JOURNAL + key);
    });
  } catch {
    // It stays in the journal, and is there again at the next start.
  }
}

/** So long a hand rests before what it typed goes from the journal to the store: not once a key. */
const SETTLE_MS = 250;
const resting = new Map<string, ReturnType<typeof setTimeout>>();
function settleAtRest(key: string) {
  clearTimeout(resting.get(key));
  resting.set(
    key,
    setTimeout(() => {
      resting.delete(key);
      void settle(key);
    }, SETTLE_MS),
  );
}

export function readDraft<T>(key: string): T | null {
  return (held.get(key) as T | undefined) ?? null;
}
export function writeDraft(key: string, value: unknown) {
  held.set(key, value);
  localStorage.setItem(JOURNAL + key, JSON.stringify(value));
  tell({ key, value });
  settleAtRest(key);
}
export function dropDraft(key: string) {
  held.delete(key);
  localStorage.removeItem(JOURNAL + key);
  tell({ key, value: null });
  clearTimeout(resting.get(key));
  void settle(key);
}
/** Nothing is known any more, as on another device: for whoever tries it. */
export function forgetDrafts() {
  held.clear();
}

/** Hears what another tab of this device types under this key. */
export function useElsewhere<T>(key: string, take: (value: T | null) => void) {
  const latest = useRef(take);
  useEffect(() => {
    latest.current = take;
  });
  useEffect(() => {
    const hear = (told: Told) => {
      if (told.key === key) latest.current(told.value as T | null);
    };
    heard.add(hear);
    return () => void heard.delete(hear);
  }, [key]);
}
/**
 * State that survives a reload until `done` is called. `kept` tells that it came from an earlier visit. `along`: when its
 * place turns out to be another, as when somebody's open sheet is joined, what was typed goes along with the hand.
 */
export function useDraft<T>(key: string, start: T, along = false) {
  const [kept, setKept] = useState(() => readDraft<T>(key) !== null);
  const [value, setValue] = useState<T>(() => readDraft<T>(key) ?? start);
  const [at, setAt] = useState(key);
  useEffect(() => {
    if (at === key) return;
    const found = readDraft<T>(key);
    const typed = along && found === null ? readDraft<T>(at) : null;
    if (typed !== null) {
      writeDraft(key, typed);
      dropDraft(at);
    }
    setValue(found ?? typed ?? start);
    setKept(found !== null);
    setAt(key);
  }, [key, at, start, along]);
  useElsewhere<T>(key, (told) => {
    setValue(told ?? start);
    if (told === null) setKept(false);
  });
  const change = useCallback(
    (next: T | ((old: T) => T)) =>
      setValue((old) => {
        const fresh = typeof next === "function" ? (next as (o: T) => T)(old) : next;
        writeDraft(key, fresh);
        return fresh;
      }),
    [key],
  );
  const done = useCallback(
    (next: T) => {
      dropDraft(key);
      setKept(false);
      setValue(next);
    },
    [key],
  );
  return { value, change, done, kept };
}
