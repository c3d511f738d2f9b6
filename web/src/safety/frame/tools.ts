/** What every drawing of a bench works with: the answer to what is typed, its figures, its save. */
import { createContext, useContext, useEffect, useState, type ReactNode } from "react";
import {
  useKeys,
  useMe,
  useNarrow,
  useSymbols,
  type BenchOut,
  type Entered,
  type EnteredRule,
  type Evaluated,
  type Key,
  type Schemas,
  type Shown,
} from "../../base";
import type { Named } from "../../instruments";
import type { Mode } from "../../logbook";
import type { SetOut } from "../../plant";

/** What a bench's page was given: of which set, by which rules, new or of which record. */
export interface Given {
  set: SetOut;
  bench: BenchOut;
  schema: unknown;
  rules: Record<string, EnteredRule>;
  case: { context: Schemas["Context"]; extras?: Record<string, unknown> };
  mode: Mode;
  record: Schemas["RecordOut"] | null;
}
export interface Line {
  value: string;
  set: (text: string) => void;
}
/** What each bench says of its own sheet. */
export interface Own<V> {
  /** The figures in the order the hand goes. */
  order: readonly string[];
  entered: (name: string) => Entered | null | undefined;
  put: (name: string, next: Entered | null) => void;
  /** Where a unit counts for more than one figure. */
  onUnit?: (name: string, unit: string) => void;
  /** The figure in hand was left. */
  onCommit?: (name: string) => void;
  /** Something else comes after this figure than the next in order; what the keypad calls it. */
  onNext?: (name: string) => void;
  nextLabel?: (name: string) => string;
  told: Evaluated<V>;
  /** What it is read with. */
  named: Named;
  /** Something is typed that can be put on record. */
  any: boolean;
  /** Figures can be tried; who may not put them on record tries all the same, where the bench says so. */
  tries?: boolean;
  save: () => Promise<void>;
  sending: boolean;
  refusal: unknown;
  reason: Line;
  note?: Line;
  /** Which sheet it is: what was read or typed on it is no other's. */
  sheet: string;
  /** The entry that a photo goes with; empty: none yet. */
  photo: string;
  keys?: Key[];
  /** Words that can stand for the figure in hand, over the keypad. */
  words?: (name: string) => ReactNode;
  /** Brings the first figure in sight. */
  first?: () => void;
}
export interface Tools<V = unknown> extends Own<V> {
  given: Given;
  /** May write in the fields; may put on record. */
  may: boolean;
  writes: boolean;
  narrow: boolean;
  symbols: Record<string, string>;
  answer: Shown<V> | null;
  unitOf: (name: string) => string;
  type: (name: string, text: string, unit?: string) => void;
  held: string | null;
  hold: (name: string | null) => void;
  focus: (name: string) => void;
  next: (name: string) => void;
}
export const fieldId = (name: string) => `f-${name}`;

export function useBench<V>(given: Given, own: Own<V>): Tools<V> {
  const me = useMe();
  const symbols = useSymbols();
  const narrow = useNarrow();
  const [held, hold] = useState<string | null>(null);
  const right = given.set.may !== "viewer";
  const writes = given.mode !== "pencil" && right;
  const unitOf = (name: string) => {
    const rule = given.rules[name];
    return own.entered(name)?.unit || me.units[rule?.dimension ?? ""] || rule?.unit || "";
  };
  const type = (name: string, text: string, unit = unitOf(name)) =>
    own.put(name, text ? { text, unit } : null);
  const focus = (name: string) => document.getElementById(fieldId(name))?.focus();
  const next = (name: string) => {
    if (own.onNext) own.onNext(name);
    else focus(own.order[(own.order.indexOf(name) + 1) % own.order.length] ?? name);
  };
  const begin = () => {
    own.first?.();
    setTimeout(() => focus(own.order[0] ?? ""));
  };
  useKeys([
    { key: "Enter", ctrl: true, does: "save record", run: () => void own.save() },
    { key: "e", does: "go to first field", run: begin },
    ...(own.keys ?? []),
  ]);
  useEffect(() => {
    if (held && narrow) document.getElementById(fieldId(held))?.scrollIntoView({ block: "center" });
  }, [held, narrow]);
  const may = right || given.mode === "pencil" || own.tries === true;
  const { answer } = own.told;
  return { ...own, given, may, writes, narrow, symbols, answer, unitOf, type, held, hold, focus, next };
}

const Held = createContext<Tools | null>(null);
export const ToolsGiven = Held.Provider;
/** The tools of the bench that this stands on. */
export function useTools(): Tools {
  const tools = useContext(Held);
  if (!tools) throw new Error("A figure of a bench stands outside of it.");
  return tools;
}
