/** What the tests of a sheet hold in hand: its entries, the core's answer, and what was sent to be put on record. */
import { useEffect, useReducer } from "react";
import { vi } from "vitest";
import { forgetDrafts } from "./drafts";
import type { SheetEntry } from "./sheets";

type Entry = SheetEntry<Record<string, unknown>>;
const NOW = "2026-03-02T09:00:00.000Z";
export const T = (seconds: number) => new Date(Date.parse(NOW) + 1000 * seconds).toISOString();

export const inHand = {
  now: NOW,
  entries: [] as Entry[],
  by: "",
  mine: 0,
  answer: null as unknown,
  before: false,
  asked: [] as { entries: Entry[]; corrects: number | null }[],
  put: vi.fn<(bench: string, request: Sent, label: string, id: string) => void>(),
  left: vi.fn(),
  refused: null as unknown,
  done: vi.fn(),
};
export interface Sent {
  set_id: number;
  sheet: string;
  corrects: number | null;
  reason: string;
  seen: string | null;
  entries: Entry[];
}
/** Nothing is in hand and nothing kept on this device: a new sheet, no answer yet. */
export function laidDown(more: Partial<typeof inHand> = {}): void {
  localStorage.clear();
  forgetDrafts();
  Object.assign(inHand, { now: NOW, entries: [], by: "", mine: 0, answer: null, before: false, asked: [] });
  Object.assign(inHand, { refused: null }, more);
  for (const f of [inHand.put, inHand.left, inHand.done]) f.mockReset();
}

const redraws = new Set<() => void>();
/** Who looks at the sheet sees it anew. */
export const shown = () => redraws.forEach((again) => again());
function useRedraw() {
  const [, again] = useReducer((n: number) => n + 1, 0);
  useEffect(() => {
    redraws.add(again);
    return () => void redraws.delete(again);
  }, []);
}
export const ofBase = {
  useMe: () => ({ username: "tia", full_name: "Tia", locale: "en-GB", units: {} }),
  useSession: () => ({ now: () => new Date(inHand.now) }),
  useOpenSheet: (_: string, told: { start?: Entry[] }) => {
    useRedraw();
    const entries = inHand.entries.length > 0 || !told.start ? inHand.entries : told.start;
    return {
      sheet: "sheet-1",
      entries,
      by: inHand.by,
      mine: inHand.mine,
      late: [],
      refusal: null,
      done: inHand.done,
      add: (body: Record<string, unknown>, at = new Date(inHand.now)) => {
        const uuid = `entry-${String(entries.length + 1)}`;
        inHand.entries = [...inHand.entries, { uuid, taken_at: at.toISOString(), device: "here", body }];
        shown();
      },
    };
  },
  useEvaluation: (_: string, asked: { entries: Entry[]; corrects: number | null }) => {
    useRedraw();
    inHand.asked.push(asked);
    return { answer: inHand.answer, before: inHand.before, error: null, ask: vi.fn() };
  },
};
export const ofLogbook = {
  useSaving: () => ({
    sending: false,
    refusal: null,
    put: async (bench: string, request: Sent, label: string, id: string, over: () => void) => {
      inHand.put(bench, request, label, id);
      if (inHand.refused === null) over();
      return inHand.refused;
    },
    leave: async (sheet: string, reason: string, label: string, over: () => void) => {
      inHand.left(sheet, reason, label);
      over();
    },
  }),
};
export const ofInstruments = { useNamed: () => ({ hand: { resistance: "3" } }) };
