/** What was typed and not yet saved: kept on the device at every keystroke, per person and place. */
import { useCallback, useEffect, useState } from "react";

const PREFIX = "hurbin-draft:";

export function readDraft<T>(key: string): T | null {
  try {
    const text = localStorage.getItem(PREFIX + key);
    return text ? (JSON.parse(text) as T) : null;
  } catch {
    return null;
  }
}
export function writeDraft(key: string, value: unknown) {
  localStorage.setItem(PREFIX + key, JSON.stringify(value));
}
export function dropDraft(key: string) {
  localStorage.removeItem(PREFIX + key);
}

/** State that survives a reload until `done` is called. `kept` tells that it came from an earlier visit. */
export function useDraft<T>(key: string, start: T) {
  const [kept, setKept] = useState(() => readDraft<T>(key) !== null);
  const [value, setValue] = useState<T>(() => readDraft<T>(key) ?? start);
  const [at, setAt] = useState(key);
  useEffect(() => {
    if (at === key) return;
    const found = readDraft<T>(key);
    setValue(found ?? start);
    setKept(found !== null);
    setAt(key);
  }, [key, at, start]);
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
