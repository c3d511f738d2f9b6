import { describe, expect, it } from "vitest";
import { nutAt, nutsOf, put, standOf, textOf } from "./nuts";

const LOW = "L1 T1 T7 / L2 T2 T8 / L3 T3 T9 / T4 T5 T6";

describe("a box as words", () => {
  it("is read and written back, whatever the order, the case and the marks", () => {
    expect(textOf(nutsOf(LOW, 9), "t")).toBe(LOW);
    expect(textOf(nutsOf("t6 5 4;l3,9 t3\nL1 T7 T1/L2 8 2", 9), "t")).toBe(LOW);
    expect(textOf(nutsOf("L1 U1 W2/L2 V1 U2/L3 W1 V2", 6), "iec")).toBe("L1 U1 W2 / L2 V1 U2 / L3 W1 V2");
  });
  it("loses nothing that it does not know, and nothing that is named twice", () => {
    const nuts = nutsOf("L1 T1 T13 red / T1 T2", 9);
    expect(nuts.map((n) => n.rest)).toEqual([["T13", "red"], [], [], ["T1"]]);
    expect(textOf(put(nuts, 3, 1), "t")).toBe("L1 T1 T13 red / L2 T3 / L3 / T2 T1");
  });
  it("has a nut for each line before anything is put together", () => {
    expect(nutsOf("", 6).map((n) => n.line)).toEqual(["L1", "L2", "L3"]);
  });
});

describe("a lead put into a nut", () => {
  it("leaves the one that it was in, and takes an empty nut with it", () => {
    const nuts = put(nutsOf("L1 T1 / L2 T2 / L3 T3 / T4", 6), 4, 0);
    expect(textOf(nuts, "t")).toBe("L1 T1 T4 / L2 T2 / L3 T3");
  });
  it("comes out where it was in it already, and begins a nut beyond the last", () => {
    const nuts = nutsOf(LOW, 9);
    expect(put(nuts, 7, 0)[0]?.leads).toEqual([1]);
    expect(put(nuts, 7, nuts.length).at(-1)?.leads).toEqual([7]);
  });
});

describe("where the box stands", () => {
  it("keeps every part inside, however it is turned", () => {
    for (const turn of [0, 1, 2, 3])
      for (const wide of [340, 580]) {
        const at = standOf(6, 12, { wide, high: 380 }, turn);
        for (const p of [...at.lines, ...at.nuts, ...at.leads]) {
          expect(p.x).toBeGreaterThanOrEqual(0);
          expect(p.x).toBeLessThanOrEqual(at.width);
          expect(p.y).toBeGreaterThanOrEqual(0);
          expect(p.y).toBeLessThanOrEqual(at.height);
        }
      }
  });
  it("finds the nut under a finger, and none where there is none", () => {
    const at = standOf(5, 9, { wide: 580, high: 400 }, 0);
    expect(nutAt(at, { x: at.nuts[3]!.x + 20, y: at.nuts[3]!.y - 10 })).toBe(3);
    expect(nutAt(at, { x: 2, y: 398 })).toBe(-1);
  });
});
