import { describe, expect, it } from "vitest";
import { added, bareView, removed, renamed, tapped, untapped, viewOf, type Circuit } from "./edited";
import { fieldAt, layoutOf, newestAt, step, type Reading } from "./layout";
import { wrapped } from "./Ladder";

const element = (id: string, kind: Circuit["elements"][number]["kind"], name = "") => ({
  id,
  kind,
  name,
  crossing: false,
  legs: [],
  taps: [],
  leads: 3 as const,
  joins: false,
  closes: [],
});
const CIRCUIT: Circuit = {
  kind: "direct",
  conductors: 3,
  taps_known: false,
  shared_by: 1,
  paths: [],
  supply: { volts: 400, earthing: "unknown" },
  elements: [
    element("S", "source", "Source"),
    element("F", "fuse", "Fuses"),
    element("K", "contactor", "Contactor"),
    element("M", "motor", "Motor"),
  ],
};
const view = viewOf(CIRCUIT);
const layout = layoutOf(view.rungs, 3, 600, { grounded: true });

describe("the ladder", () => {
  it("goes down from the source, each place beneath the one before, within its own width", () => {
    const ys = [...layout.rungs.values()];
    expect([...layout.rungs.keys()]).toEqual(["S.out", "F.in", "F.out", "K.in", "K.out", "M.in"]);
    expect(ys).toEqual(ys.toSorted((a, b) => a - b));
    for (const width of [340, 600]) {
      const at = layoutOf(view.rungs, 3, width, { grounded: true });
      expect(Math.max(...at.legs, at.ground.x)).toBeLessThan(width);
      expect(Math.min(...at.legs)).toBeGreaterThan(at.names);
    }
  });
  it("finds the point that was tapped, and ground where readings to it prove something", () => {
    const at = layout.at("K.in.2")!;
    expect(layout.nearest({ x: at.x + 9, y: at.y - 8 }).point).toBe("K.in.2");
    expect(layout.nearest(layout.ground).point).toBe("ground");
    expect(layoutOf(view.rungs, 3, 600).nearest(layout.ground).point).not.toBe("ground");
    expect(layout.at("Q.in.1")).toBeNull();
  });
  it("leads a probe by arrows and never over the edge", () => {
    expect(step(layout, "F.in.1", "ArrowDown")).toBe("F.out.1");
    expect(step(layout, "F.in.1", "ArrowRight")).toBe("F.in.2");
    expect(step(layout, "S.out.1", "ArrowUp")).toBe("S.out.1");
    expect(step(layout, "M.in.3", "ArrowRight")).toBe("M.in.3");
    expect(step(layout, "ground", "ArrowUp")).toBe("M.in.3");
  });
  it("hangs the field beneath both probes, within the drawing", () => {
    const narrow = layoutOf(view.rungs, 3, 340, { grounded: true });
    for (const [one, two] of [
      ["F.in.1", "F.in.2"],
      ["F.in.3", "ground"],
      ["M.in.1", "M.in.1"],
    ] as const) {
      const at = fieldAt(narrow, one, two)!;
      expect(at.x).toBeGreaterThanOrEqual(62);
      expect(at.x).toBeLessThanOrEqual(340 - 62);
      expect(at.y).toBeGreaterThan(Math.max(narrow.at(one)!.y, narrow.at(two)!.y));
    }
    expect(fieldAt(narrow, "", "")).toBeNull();
  });
  it("shows the newest figure of a pair, whichever tip was where", () => {
    const read = (uuid: string, one: string, two: string, what = "volts") =>
      ({ uuid, one, two, what }) as Reading;
    const rows = [
      read("a", "F.in.1", "F.in.2"),
      read("b", "F.in.2", "F.in.1"),
      read("c", "F.in.2", "F.in.1", "ohms"),
    ];
    expect(newestAt(rows).map((r) => r.uuid)).toEqual(["b", "c"]);
  });
  it("breaks a long name into lines", () => {
    expect(wrapped("Plug or terminal strip", 12)).toEqual(["Plug or", "terminal", "strip"]);
  });
});

describe("a ladder that nobody judged yet", () => {
  it("stands as its circuit says, with nothing said of what is open", () => {
    const bare = bareView(CIRCUIT);
    expect([bare.contactor, bare.motor, bare.ground, bare.next, bare.leftovers]).toEqual([
      true,
      true,
      false,
      null,
      [],
    ]);
    expect(bare.stands.contactor).toBe("out");
  });
});

describe("a circuit that is edited", () => {
  it("takes an element beneath another under an id of its own, and loses it again", () => {
    const [next, id] = added(CIRCUIT, "F", "isolator", "Local isolator");
    expect(next.elements.map((e) => e.id)).toEqual(["S", "F", id, "K", "M"]);
    const [twice, other] = added(next, "F", "isolator", "Local isolator");
    expect(other).not.toBe(id);
    expect(removed(removed(twice, id), other)).toEqual(CIRCUIT);
  });
  it("keeps an element's id when it is renamed: what was read there stays there", () => {
    const next = renamed(CIRCUIT, "K", "Contactor 4");
    expect(next.elements[2]).toMatchObject({ id: "K", name: "Contactor 4" });
  });
  it("draws what is tapped off between its two legs", () => {
    const next = tapped(CIRCUIT, "F", "control_transformer", [1, 2]);
    const [tap] = viewOf(next).elements[1]!.taps;
    expect(tap?.legs).toEqual([1, 2]);
    expect(untapped(next, "F", tap!.id)).toEqual(CIRCUIT);
  });
  it("draws a leg straight through what does not stand in it", () => {
    const single: Circuit = {
      ...CIRCUIT,
      conductors: 2,
      elements: CIRCUIT.elements.map((e) => (e.id === "F" ? { ...e, legs: [1] } : e)),
    };
    const through = viewOf(single).spans.filter((s) => s.within === "F");
    expect(through.map((s) => [s.leg, s.through])).toEqual([
      [1, false],
      [2, true],
    ]);
  });
});
