import { describe, expect, it } from "vitest";
import { carryState, emptyDraft, hasFigures, nextField, order } from "./sheet";
import { press } from "../../base";

describe("the keypad", () => {
  it("types, takes back, turns the sign and sets a bound once", () => {
    let text = "";
    for (const k of ["3", "1", ".", "9"]) text = press(text, k);
    expect(text).toBe("31.9");
    expect(press(text, "⌫")).toBe("31.");
    expect(press(press(text, "±"), "±")).toBe("31.9");
    expect(press(press(text, ">"), "<")).toBe("<31.9");
  });
  it("replaces OL by the next digit", () => {
    expect(press(press("31", "OL"), "4")).toBe("4");
  });
  it("walks all legs and comes round", () => {
    const fields = order(3);
    expect(fields).toHaveLength(6);
    expect(nextField(fields, "volts_31")).toBe("amps_1");
    expect(nextField(fields, "amps_3")).toBe("volts_12");
    expect(nextField(order(1), "volts_12")).toBe("amps_1");
  });
});

describe("the state of last time", () => {
  const last = { read_at: "motor_leads", valve: "open", coupled: true, amps_1: { text: "30" } };
  it("stands in pencil, without last time's figures", () => {
    const d = carryState(emptyDraft(), last);
    expect(d.carried).toEqual(["read_at", "valve", "coupled"]);
    expect(d.body.amps_1).toBeUndefined();
    expect(hasFigures(d.body)).toBe(false);
  });
  it("never overwrites what was said on this sheet", () => {
    const said = { ...emptyDraft(), body: { valve: "shut" as const } };
    expect(carryState(said, last)).toBe(said);
  });
});
