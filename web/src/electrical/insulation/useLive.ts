/** What is typed at this moment, and the field that wakes when a reading is due. */
import { useEffect, useMemo, useRef } from "react";
import { deviceName } from "../../base";
import type { Pending } from "./fields";
import { markNow, type Entry, type Mark } from "./logic";
import { useTick } from "./Stopwatch";

/** The entries with what is still being typed laid over, so that the verdict answers at every keystroke. */
export function useLive(entries: Entry[], pending: Pending): Entry[] {
  const typed = JSON.stringify(pending.setup);
  return useMemo(() => {
    const setup = Object.fromEntries(
      Object.entries(JSON.parse(typed) as Pending["setup"]).filter(([, v]) => v.text.trim()),
    );
    if (Object.keys(setup).length === 0) return entries;
    const last = entries.at(-1)?.taken_at ?? "2000-01-01T00:00:00Z";
    return [
      ...entries,
      { uuid: "typing-now-setup", taken_at: last, device: deviceName(), body: { kind: "setup", ...setup } },
    ];
  }, [entries, typed]);
}
/** Wakes the reading's field at each mark. */
export function useWake(
  running: boolean,
  startedAt: number,
  marks: Mark[],
  taken: number[],
  now: () => Date,
  wake: () => void,
) {
  useTick(running);
  const woken = useRef(0);
  const elapsed = running ? (now().getTime() - startedAt) / 1000 : 0;
  const { due } = markNow(running ? marks : [], taken, elapsed);
  useEffect(() => {
    if (due === null || woken.current === due + startedAt) return;
    woken.current = due + startedAt;
    const inHand = document.activeElement;
    if (!(inHand instanceof HTMLInputElement) || inHand.id === "f-ohms") wake();
  }, [due, startedAt, wake]);
}
