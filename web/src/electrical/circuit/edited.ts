/** A circuit while it is edited: what changes to it, and the same drawing from what it says. */
import type { Schemas } from "../../base";
import type { View } from "./layout";

export type Circuit = Schemas["Circuit"];
export type Made = Circuit["elements"][number];
const ENDS = ["motor", "drive", "soft_starter", "electronics", "windings"];
/** What can stand between a source and an end. */
export const BETWEEN: [Made["kind"], string][] = [
  ["disconnect", "Disconnect"],
  ["breaker", "Breaker"],
  ["fuse", "Fuses"],
  ["contactor", "Contactor"],
  ["relay", "Relay contact"],
  ["overload", "Overload"],
  ["isolator", "Local isolator"],
  ["plug", "Plug or terminals"],
];
export const EARTHING: Record<2 | 3, [Circuit["supply"]["earthing"] & string, string][]> = {
  3: [
    ["unknown", "not known"],
    ["solid_wye", "solidly grounded wye"],
    ["resistance", "resistance-grounded wye"],
    ["ungrounded", "ungrounded"],
    ["corner", "corner-grounded delta"],
    ["high_leg", "center-tapped delta (high leg)"],
  ],
  2: [
    ["unknown", "not known"],
    ["neutral", "line and grounded neutral"],
    ["midpoint", "two hot legs, grounded midpoint"],
  ],
};
export const isEnd = (e: Made) => ENDS.includes(e.kind) || e.kind === "source";

/** The circuit as the ladder draws it: nothing read yet, every contact as it stands without its coil. */
export function viewOf(
  circuit: Circuit,
): Pick<View, "elements" | "legs" | "spans" | "readings" | "ground" | "stands" | "rungs"> {
  const conductors = circuit.conductors ?? 3;
  const legs = [1, 2, 3].slice(0, conductors);
  const rungs: View["rungs"] = circuit.elements.flatMap((e) =>
    (e.kind === "source" ? ["out"] : ENDS.includes(e.kind) ? ["in"] : ["in", "out"]).map((side) => ({
      id: `${e.id}.${side}`,
      element: e.id,
      side,
      title: e.name || e.id,
    })),
  );
  const spans = rungs.slice(1).flatMap((r, i) => {
    const above = rungs[i]!;
    const element = circuit.elements.find((e) => e.id === r.element)!;
    const inside = above.element === r.element;
    return legs.map((leg) => ({
      id: `${above.id}-${r.id}.${leg}`,
      leg,
      upper: `${above.id}.${leg}`,
      lower: `${r.id}.${leg}`,
      within: inside ? r.element : "",
      through: inside && Boolean(element.legs?.length) && !element.legs?.includes(leg as 1 | 2 | 3),
      share: 0,
      named: false,
    }));
  });
  return {
    legs: conductors === 2 ? ["L", "N"] : ["L1", "L2", "L3"],
    elements: circuit.elements.map((e) => ({
      id: e.id,
      kind: e.kind,
      name: e.name || e.id,
      legs: e.legs?.length ? e.legs : legs,
      closed: ["contactor", "relay"].includes(e.kind) ? false : null,
      crossed: false,
      taps: (e.taps ?? []).map((t) => ({ id: t.id, what: t.what, title: t.what, legs: [...t.legs] })),
    })),
    rungs,
    spans,
    readings: [],
    ground: false,
    stands: {},
  };
}

/** The whole drawing of a circuit of which nothing is judged yet: no answer has come, or nobody can be reached. */
export function bareView(circuit: Circuit): View {
  const drawn = viewOf(circuit);
  const contactor = circuit.elements.some((e) => ["contactor", "relay"].includes(e.kind));
  return {
    ...drawn,
    title: "",
    supply: null,
    below: "",
    confirmed: true,
    contactor,
    reverses: circuit.elements.some((e) => e.crossing),
    motor: circuit.elements.at(-1)?.kind === "motor",
    left: 0,
    total: 0,
    headline: null,
    leftovers: [],
    more: 0,
    others: null,
    cannot: [],
    signs: [],
    next: null,
    stands: { contactor: contactor ? "out" : "in", motor: "standing", leads: "on", meter: "low" },
    proved: "",
  };
}

/** An id that no element and no tap has yet. */
function freeId(circuit: Circuit, letter: string): string {
  const held = new Set(circuit.elements.flatMap((e) => [e.id, ...(e.taps ?? []).map((t) => t.id)]));
  for (let n = 2; ; n++) if (!held.has(`${letter}${n}`)) return `${letter}${n}`;
}
const replaced = (circuit: Circuit, id: string, next: Partial<Made>): Circuit => ({
  ...circuit,
  elements: circuit.elements.map((e) => (e.id === id ? { ...e, ...next } : e)),
});
export const renamed = (circuit: Circuit, id: string, name: string) => replaced(circuit, id, { name });
export const removed = (circuit: Circuit, id: string): Circuit => ({
  ...circuit,
  elements: circuit.elements.filter((e) => e.id !== id),
});
/** Another element beneath this one. */
export function added(circuit: Circuit, under: string, kind: Made["kind"], name: string): [Circuit, string] {
  const id = freeId(circuit, name[0]!.toUpperCase());
  const at = circuit.elements.findIndex((e) => e.id === under) + 1;
  const elements = [...circuit.elements];
  elements.splice(at, 0, { id, kind, name, crossing: false, legs: [], taps: [] });
  return [{ ...circuit, elements }, id];
}
/** What a control transformer or a heater has between its legs, roughly: only how it feeds back hangs on it. */
const TAPPED_OHMS = 1000;
type TapOf = NonNullable<Made["taps"]>[number];
export function tapped(circuit: Circuit, id: string, what: TapOf["what"], legs: TapOf["legs"]): Circuit {
  const taps = circuit.elements.find((e) => e.id === id)?.taps ?? [];
  return replaced(circuit, id, {
    taps: [...taps, { id: freeId(circuit, "T"), what, legs, ohms: TAPPED_OHMS }],
  });
}
export const untapped = (circuit: Circuit, id: string, tap: string): Circuit =>
  replaced(circuit, id, {
    taps: (circuit.elements.find((e) => e.id === id)?.taps ?? []).filter((t) => t.id !== tap),
  });
