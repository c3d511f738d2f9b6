/** The acts of a proof as the core compiles them, shortened: for trying the panel by itself. */
import type { Schemas } from "../base";

const LABEL: Record<string, string> = {
  v12: "L1 to L2",
  v23: "L2 to L3",
  v31: "L3 to L1",
  v1g: "L1 to ground",
  v2g: "L2 to ground",
  v3g: "L3 to ground",
};
export function proofSteps(state: string, pairs = Object.keys(LABEL)): Schemas["ProofStep"][] {
  const now = state === "begun" ? 1 : state === "read" ? 2 : 0;
  const field = (name: string, label: string, unit = "", optional = false) => ({
    name,
    label,
    beside: "",
    unit,
    optional,
    choices: name === "tester" ? ["T1"] : [],
  });
  const live = (label: string) => field("live_volts", label, "V");
  const acts = [
    {
      id: "live_before",
      title: "known live source",
      word: "Save live reading",
      entry: { kind: "proof", act: "live_before" },
      fields: [field("tester", "tester"), live("Voltage on known live source")],
    },
    {
      id: "dead",
      title: "every conductor",
      word: "Save dead readings",
      entry: { kind: "proof", act: "dead", tester: "T1" },
      fields: [
        field("point", "point of work", "", true),
        ...pairs.map((name) => field(name, LABEL[name] ?? name, "V")),
      ],
    },
    {
      id: "live_after",
      title: "known live source again",
      word: "Save live reading, finish proof",
      entry: { kind: "proof", act: "live_after", tester: "T1" },
      fields: [live("Voltage on known live source again")],
    },
  ];
  return acts.map((a, i) => ({ ...a, says: "", state: i < now ? "done" : i === now ? "now" : "later" }));
}
