import { describe, expect, it } from "vitest";
import { fresh } from "./ProceduresPage";
import { tapped, turnOf } from "./StepMoves";

describe("a part of a step, tapped", () => {
  it("comes off, goes back, goes back new, and is left alone again", () => {
    let step = {};
    const seen = [1, 2, 3, 4].map(() => {
      step = { ...step, ...tapped(step, "seat") };
      return turnOf(step, "seat");
    });
    expect(seen).toEqual(["off", "on", "renew", ""]);
    expect(step).toEqual({ off: [], on: [], renew: [] });
  });
  it("stands in both lists when it goes back new, and leaves the others alone", () => {
    const step = { off: ["nut"], on: ["seat", "spring"], renew: ["spring"] };
    expect(tapped(step, "seat")).toEqual({ off: ["nut"], on: ["spring", "seat"], renew: ["spring", "seat"] });
    expect(tapped(step, "spring")).toEqual({ off: ["nut"], on: ["seat"], renew: [] });
    expect(turnOf(step, "nut")).toBe("off");
    expect(turnOf(step, "washer")).toBe("");
  });
});
describe("a new step", () => {
  it("has an id that no other has", () => {
    expect(fresh([])).toBe("x1");
    expect(fresh([{ id: "1" }, { id: "x3" }])).toBe("x4");
  });
});
