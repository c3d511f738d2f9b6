/** A circuit while it is edited: what changes to it, and the same drawing from what it says. */
import type { Schemas } from "../../base";
import type { View } from "./layout";
import { POSITIONS } from "./positions";

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

const SWITCHED = ["contactor", "relay"];
export const isSwitched = (e: Made) => SWITCHED.includes(e.kind);
type Path = NonNullable<Circuit["paths"]>[number];
/** The elements of the ladder, then those of each path beside it. */
export const runsOf = (circuit: Circuit): Made[][] => [
  circuit.elements,
  ...(circuit.paths ?? []).map((p) => p.elements),
];
export const everyOf = (circuit: Circuit): Made[] => runsOf(circuit).flat();
const ENDS_OF = ["U2", "V2", "W2"];
export const sixLeads = (circuit: Circuit) => circuit.elements.some((e) => e.leads === 6);

function rungsOf(run: readonly Made[], n: number): View["rungs"] {
  return run.flatMap((e, i) => {
    const ends = i === run.length - 1 && ENDS.includes(e.kind);
    const sides = e.kind === "source" ? ["out"] : ends ? ["in"] : ["in", "out"];
    return sides.map((side) => ({
      id: `${e.id}.${side}`,
      element: e.id,
      side,
      title: e.name || e.id,
      run: n,
    }));
  });
}

/** The circuit as the ladder draws it: nothing read yet, every contact as it stands without its coil. */
export function viewOf(
  circuit: Circuit,
): Pick<View, "elements" | "legs" | "spans" | "readings" | "ground" | "stands" | "rungs" | "paths"> {
  const conductors = circuit.conductors ?? 3;
  const legs = [1, 2, 3].slice(0, conductors);
  const every = everyOf(circuit);
  const runs = runsOf(circuit).map(rungsOf);
  const paths = circuit.paths ?? [];
  const titleOf = (rung: string) => runs[0]!.find((r) => r.id === rung)?.title ?? rung;
  const spans = runs.flatMap((own, n) => {
    const path = paths[n - 1];
    const order = [
      ...(path ? [{ id: path.leaves, element: "" }] : []),
      ...own,
      ...(path?.lands ? [{ id: path.lands, element: "" }] : []),
    ];
    return order.slice(1).flatMap((r, i) => {
      const above = order[i]!;
      const element = every.find((e) => e.id === r.element);
      const inside = above.element === r.element;
      return legs.map((leg) => {
        const onto = path && r.id === path.lands ? (path.onto?.[leg - 1] ?? leg) : leg;
        return {
          id: `${above.id}-${r.id}.${leg}`,
          leg,
          upper: `${above.id}.${leg}`,
          lower: `${r.id}.${onto}`,
          within: inside ? r.element : "",
          through: inside && Boolean(element?.legs?.length) && !element?.legs?.includes(leg as 1 | 2 | 3),
          share: 0,
          named: false,
        };
      });
    });
  });
  return {
    legs: conductors === 2 ? ["L", "N"] : ["L1", "L2", "L3"],
    elements: every.map((e) => ({
      id: e.id,
      kind: e.kind,
      name: e.name || e.id,
      legs: e.legs?.length ? e.legs : legs,
      closed: isSwitched(e) ? false : null,
      crossed: false,
      joins: e.joins ?? false,
      taps: (e.taps ?? []).map((t) => ({ id: t.id, what: t.what, title: t.what, legs: [...t.legs] })),
    })),
    rungs: runs.flat(),
    paths: paths.map((p) => ({
      leaves: p.leaves,
      lands: p.lands ?? "",
      begins: titleOf(p.leaves),
      ends: p.lands ? titleOf(p.lands) : null,
      onto: p.lands ? ontoWords(circuit, p) : [],
    })),
    spans,
    readings: [],
    ground: false,
    stands: {},
  };
}
function ontoWords(circuit: Circuit, path: Path): string[] {
  const far = sixLeads(circuit) && path.lands?.endsWith(".out");
  return (path.onto ?? [1, 2, 3]).map((leg) => (far ? ENDS_OF[leg - 1]! : `L${leg}`));
}

/** How this starter can stand, in the order in which it is chosen. */
export function positionsOf(circuit: Circuit): string[] {
  const switched = everyOf(circuit).filter(isSwitched);
  if (!switched.length) return [];
  const said = new Set<string>(switched.flatMap((e) => e.closes ?? []));
  if (switched.some((e) => !e.closes?.length)) said.add("in");
  if (switched.some((e) => e.crossing)) said.add("reverse");
  return POSITIONS.filter((p) => p === "out" || said.has(p));
}

/** The whole drawing of a circuit of which nothing is judged yet: no answer has come, or nobody can be reached. */
export function bareView(circuit: Circuit): View {
  const drawn = viewOf(circuit);
  const positions = positionsOf(circuit);
  const contactor = positions.length > 0;
  return {
    ...drawn,
    title: "",
    supply: null,
    below: "",
    confirmed: true,
    contactor,
    positions,
    motor: circuit.elements.some((e) => e.kind === "motor"),
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
  const held = new Set(everyOf(circuit).flatMap((e) => [e.id, ...(e.taps ?? []).map((t) => t.id)]));
  if (!held.has(letter)) return letter;
  for (let n = 2; ; n++) if (!held.has(`${letter}${n}`)) return `${letter}${n}`;
}
/** Every run of the circuit changed alike. */
const inRuns = (circuit: Circuit, change: (run: Made[]) => Made[]): Circuit => ({
  ...circuit,
  elements: change(circuit.elements),
  ...(circuit.paths ? { paths: circuit.paths.map((p) => ({ ...p, elements: change(p.elements) })) } : {}),
});
const replaced = (circuit: Circuit, id: string, next: Partial<Made>): Circuit =>
  inRuns(circuit, (run) => run.map((e) => (e.id === id ? { ...e, ...next } : e)));
export const renamed = (circuit: Circuit, id: string, name: string) => replaced(circuit, id, { name });
/** In which positions of the starter a contactor is in. */
export const closing = (circuit: Circuit, id: string, closes: NonNullable<Made["closes"]>) =>
  replaced(circuit, id, { closes });
/** An element gone: a path that began or ended at it does so at its neighbour, one that was this element alone is gone
 * with it.
 */
export function removed(circuit: Circuit, id: string): Circuit {
  const at = circuit.elements.findIndex((e) => e.id === id);
  const moved = (rung: string) => {
    if (at < 0 || rung.split(".")[0] !== id) return rung;
    return rung.endsWith(".in")
      ? `${circuit.elements[at + 1]!.id}.in`
      : `${circuit.elements[at - 1]!.id}.out`;
  };
  const next = inRuns(circuit, (run) => run.filter((e) => e.id !== id));
  if (!next.paths) return next;
  const paths = next.paths
    .filter((p) => p.elements.length > 0)
    .map((p) => ({ ...p, leaves: moved(p.leaves), lands: moved(p.lands ?? "") }));
  return { ...next, paths };
}
const made = (id: string, kind: Made["kind"], name: string, more: Partial<Made> = {}): Made => ({
  ...{ id, kind, name, crossing: false, legs: [], taps: [], leads: 3, joins: false, closes: [] },
  ...more,
});
/** Another element beneath this one, on the ladder or on its path. */
export function added(circuit: Circuit, under: string, kind: Made["kind"], name: string): [Circuit, string] {
  const id = freeId(circuit, name[0]!.toUpperCase());
  const next = inRuns(circuit, (run) => {
    const at = run.findIndex((e) => e.id === under) + 1;
    return at ? [...run.slice(0, at), made(id, kind, name), ...run.slice(at)] : run;
  });
  return [next, id];
}
/** Where a path that passes the contactors of a starter leaves: beneath what protects it. */
function protectedAt(circuit: Circuit): string {
  const fused = circuit.elements.filter((e) => ["fuse", "breaker", "disconnect"].includes(e.kind)).at(-1);
  return `${(fused ?? circuit.elements[0]!).id}.out`;
}
/** A motor with three leads, or with six: then a star contactor ends its windings and a delta contactor stands beside. */
export function withLeads(circuit: Circuit, leads: 3 | 6): Circuit {
  const motor = circuit.elements.find((e) => e.kind === "motor");
  if (!motor || (motor.leads ?? 3) === leads) return circuit;
  const far = `${motor.id}.out`;
  const changed = replaced(circuit, motor.id, { leads });
  const others = (changed.paths ?? []).filter((p) => p.lands !== far);
  const kind = leads === 6 ? "star_delta" : circuit.kind === "star_delta" ? "direct" : (circuit.kind ?? "");
  if (leads === 3)
    return { ...changed, kind, elements: changed.elements.filter((e) => !e.joins), paths: others };
  const star = made(freeId(changed, "Y"), "contactor", "Star contactor", { joins: true, closes: ["star"] });
  const elements = [...changed.elements, star];
  const delta = made(freeId({ ...changed, elements }, "X"), "contactor", "Delta contactor", {
    closes: ["delta"],
  });
  const path: Path = { leaves: protectedAt(changed), lands: far, onto: [3, 1, 2], elements: [delta] };
  return { ...changed, kind, elements, paths: [...others, path] };
}
/** Which end each line goes to in delta: either way round joins each winding's end to the start of the next. */
export const deltaOnto = (circuit: Circuit, onto: Path["onto"]): Circuit => ({
  ...circuit,
  paths: (circuit.paths ?? []).map((p) => (isDelta(circuit, p) ? { ...p, onto } : p)),
});
const isDelta = (circuit: Circuit, p: Path) =>
  circuit.elements.some((e) => e.leads === 6 && p.lands === `${e.id}.out`);
export const deltaOf = (circuit: Circuit) => (circuit.paths ?? []).find((p) => isDelta(circuit, p));
/** Electronics with the motor beneath them and no way past yet. */
export function bypassable(circuit: Circuit, id: string): boolean {
  const at = circuit.elements.findIndex((e) => e.id === id);
  const electronics = ["drive", "soft_starter"].includes(circuit.elements[at]?.kind ?? "");
  return electronics && at < circuit.elements.length - 1 && !(circuit.paths ?? []).length;
}
/** A bypass contactor past these electronics; past a drive also past the contactors above and beneath it. */
export function bypassed(circuit: Circuit, id: string): Circuit {
  const at = circuit.elements.findIndex((e) => e.id === id);
  const drive = circuit.elements[at]?.kind === "drive";
  const beside = [at - 1, at + 1].filter((i) => drive && isSwitched(circuit.elements[i]!));
  const above = circuit.elements[beside.includes(at - 1) ? at - 2 : at - 1]!;
  const below = circuit.elements[beside.includes(at + 1) ? at + 2 : at + 1]!;
  const elements = circuit.elements.map((e, i) =>
    beside.includes(i) ? { ...e, closes: ["drive" as const] } : e,
  );
  const own = made(freeId(circuit, "B"), "contactor", "Bypass contactor", { closes: ["bypass"] });
  const path: Path = { leaves: `${above.id}.out`, lands: `${below.id}.in`, onto: [1, 2, 3], elements: [own] };
  return { ...circuit, elements, paths: [...(circuit.paths ?? []), path] };
}
/** The positions in which a contactor of this circuit can be in; none where it has but one. */
export function choicesOf(circuit: Circuit): NonNullable<Made["closes"]> {
  if (sixLeads(circuit)) return ["in", "star", "delta"];
  if (circuit.elements.slice(0, -1).some((e) => e.kind === "drive")) return ["drive", "bypass"];
  if (circuit.elements.slice(0, -1).some((e) => e.kind === "soft_starter")) return ["in", "bypass"];
  return (circuit.paths ?? []).some((p) => !p.lands) ? ["first", "second", "both"] : [];
}
/** What a control transformer or a heater has between its legs, roughly: only how it feeds back hangs on it. */
const TAPPED_OHMS = 1000;
type TapOf = NonNullable<Made["taps"]>[number];
export function tapped(circuit: Circuit, id: string, what: TapOf["what"], legs: TapOf["legs"]): Circuit {
  const taps = everyOf(circuit).find((e) => e.id === id)?.taps ?? [];
  return replaced(circuit, id, {
    taps: [...taps, { id: freeId(circuit, "T"), what, legs, ohms: TAPPED_OHMS }],
  });
}
export const untapped = (circuit: Circuit, id: string, tap: string): Circuit =>
  replaced(circuit, id, {
    taps: (everyOf(circuit).find((e) => e.id === id)?.taps ?? []).filter((t) => t.id !== tap),
  });
