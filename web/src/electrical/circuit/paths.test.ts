import { describe, expect, it } from "vitest";
import {
  added,
  bareView,
  bypassable,
  bypassed,
  choicesOf,
  closing,
  deltaOf,
  deltaOnto,
  positionsOf,
  removed,
  viewOf,
  withLeads,
  type Circuit,
  type Made,
} from "./edited";
import { acrossOf, layoutOf, step } from "./layout";
import { wordOf } from "./positions";

const element = (id: string, kind: Made["kind"], more: Partial<Made> = {}): Made => ({
  ...{ id, kind, name: "", crossing: false, legs: [], taps: [], leads: 3, joins: false, closes: [] },
  ...more,
});
const circuit = (kind: string, elements: Made[]): Circuit => ({
  ...{ kind, conductors: 3, taps_known: false, shared_by: 1, paths: [], elements },
  supply: { volts: 400, earthing: "unknown" },
});
const DIRECT = circuit("direct", [
  element("S", "source"),
  element("F", "fuse"),
  element("K", "contactor"),
  element("O", "overload"),
  element("M", "motor"),
]);
const DRIVE = circuit("drive", [
  element("S", "source"),
  element("F", "fuse"),
  element("K", "contactor"),
  element("Y", "drive"),
  element("A", "contactor"),
  element("O", "overload"),
  element("M", "motor"),
]);
const RING = withLeads(DIRECT, 6);
const PAST = bypassed(DRIVE, "Y");
const drawn = (c: Circuit, width: number) => {
  const view = viewOf(c);
  return layoutOf(view.rungs, 3, width, { paths: view.paths });
};

describe("a motor with six leads", () => {
  it("ends in a star contactor, and a delta contactor stands beside it, each closed in its own position", () => {
    expect(RING.elements.at(-1)).toMatchObject({ name: "Star contactor", joins: true, closes: ["star"] });
    expect(deltaOf(RING)).toMatchObject({ leaves: "F.out", lands: "M.out", onto: [3, 1, 2] });
    expect(positionsOf(RING)).toEqual(["out", "in", "star", "delta"]);
    expect(RING.kind).toBe("star_delta");
    expect(deltaOf(deltaOnto(RING, [2, 3, 1]))?.onto).toEqual([2, 3, 1]);
  });
  it("is the circuit that it was once it has three leads again", () => {
    expect(withLeads(RING, 3)).toEqual(DIRECT);
    expect(withLeads(RING, 6)).toBe(RING);
  });
  it("draws each line of delta onto the end where it comes out", () => {
    const wire = viewOf(RING).spans.filter((s) => s.lower.startsWith("M.out") && s.upper.startsWith("X"));
    expect(wire.map((s) => s.lower)).toEqual(["M.out.3", "M.out.1", "M.out.2"]);
    expect(viewOf(RING).paths[0]).toMatchObject({ onto: ["W2", "U2", "V2"] });
  });
});

describe("a bypass", () => {
  it("passes a drive with the contactors on both its sides, which are closed with the drive alone", () => {
    expect(PAST.paths?.[0]).toMatchObject({ leaves: "F.out", lands: "O.in" });
    expect(positionsOf(PAST)).toEqual(["out", "drive", "bypass"]);
    expect([bypassable(DRIVE, "Y"), bypassable(PAST, "Y"), bypassable(DRIVE, "K")]).toEqual([
      true,
      false,
      false,
    ]);
    expect(choicesOf(PAST)).toEqual(["drive", "bypass"]);
    expect(positionsOf(closing(PAST, "K", ["drive", "bypass"]))).toEqual(["out", "drive", "bypass"]);
  });
  it("goes when its only contactor is removed, and moves when what it began or ended at is", () => {
    expect(removed(PAST, "B").paths).toEqual([]);
    expect(removed(PAST, "F").paths?.[0]).toMatchObject({ leaves: "S.out", lands: "O.in" });
    expect(removed(PAST, "O").paths?.[0]).toMatchObject({ leaves: "F.out", lands: "M.in" });
    const [longer, id] = added(PAST, "B", "overload", "Overload");
    expect(longer.paths?.[0]?.elements.map((e) => e.id)).toEqual(["B", id]);
    expect(removed(longer, "B").paths?.[0]?.elements.map((e) => e.id)).toEqual([id]);
  });
});

describe("where two ways are drawn", () => {
  it("stands side by side on a desk, inside the drawing, and comes back beneath where it left", () => {
    for (const c of [RING, PAST]) {
      const at = drawn(c, 740);
      expect(Math.max(...at.columns[1]!)).toBeLessThan(740);
      expect(Math.min(...at.columns[1]!)).toBeGreaterThan(Math.max(...at.legs));
      const inside = [...at.rungs].filter(([id]) => at.runOf(id) === 1).map(([, y]) => y);
      const { leaves, lands } = c.paths![0]!;
      expect(Math.min(...inside)).toBeGreaterThan(at.rungs.get(leaves)!);
      expect(Math.max(...inside)).toBeLessThan(at.rungs.get(lands!)! + 60);
    }
  });
  it("makes room beside the ladder for a path that is longer than what it passes", () => {
    let long = PAST;
    for (let n = 0; n < 5; n++) [long] = added(long, "B", "fuse", "Fuses");
    const at = drawn(long, 740);
    const last = Math.max(...[...at.rungs].filter(([id]) => at.runOf(id) === 1).map(([, y]) => y));
    expect(at.rungs.get("O.in")!).toBeGreaterThan(last);
  });
  it("stands beneath on a phone, at the full width, its wires as stubs", () => {
    const at = drawn(RING, 358);
    expect(at.stacked).toBe(true);
    expect(at.columns[1]).toEqual(at.legs);
    expect(at.rungs.get("X.in")!).toBeGreaterThan(at.rungs.get("Y.out")!);
    expect(acrossOf(at, { upper: "F.out.1", lower: "X.in.1", leg: 1 })?.branch).toBeNull();
    expect(at.height).toBeGreaterThan(at.rungs.get("X.out")!);
  });
  it("crosses from the ladder to the path and back, and nothing else does", () => {
    const at = drawn(PAST, 740);
    expect(acrossOf(at, { upper: "F.out.2", lower: "B.in.2", leg: 2 })?.branch?.x).toBe(at.legs[1]);
    expect(acrossOf(at, { upper: "B.out.2", lower: "O.in.2", leg: 2 })?.branch?.x).toBe(at.legs[1]);
    expect(acrossOf(at, { upper: "F.out.2", lower: "K.in.2", leg: 2 })).toBeNull();
  });
  it("leads a probe by arrows onto the path and off it again", () => {
    const at = drawn(PAST, 740);
    expect(step(at, "K.in.3", "ArrowRight")).toBe("B.in.1");
    expect(step(at, "B.in.1", "ArrowLeft")).toBe("K.in.3");
    expect(step(at, "B.in.2", "ArrowUp")).toBe("F.out.2");
    expect(step(at, "B.out.2", "ArrowDown")).toBe("O.in.2");
    const phone = drawn(PAST, 358);
    expect(step(phone, "M.in.2", "ArrowDown")).toBe("B.in.2");
    expect(step(phone, "B.out.2", "ArrowDown")).toBe("B.out.2");
  });
});

describe("how a starter stands", () => {
  it("is called by what else it can do", () => {
    expect(positionsOf(RING).map((p) => wordOf(p, positionsOf(RING)))).toEqual([
      "out",
      "main alone in",
      "main and star in",
      "main and delta in",
    ]);
    expect(wordOf("in", ["out", "in"])).toBe("in");
    expect(wordOf("in", ["out", "in", "reverse"])).toBe("in, forward");
    expect(wordOf("bypass", ["out", "in", "bypass"])).toBe("line and bypass in");
    expect(bareView(DIRECT).positions).toEqual(["out", "in"]);
  });
});
