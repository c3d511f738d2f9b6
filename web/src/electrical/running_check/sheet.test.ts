import { describe, expect, it } from "vitest";
import { press, type Schemas } from "../../base";
import { hasFigures, opening, type Given } from "../../safety";
import { order, STATE, type Body } from "./sheet";

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
  it("has a leg's volts and amps where there is one leg", () => {
    expect(order(3)).toHaveLength(6);
    expect(order(1)).toEqual(["volts_12", "amps_1"]);
  });
});

describe("a sheet as it opens", () => {
  const last = { read_at: "motor_leads", valve: "open", coupled: true, amps_1: { text: "30" } };
  const given = (more: object) =>
    ({ record: null, case: { context: { last: { body: last } } }, ...more }) as unknown as Given;
  it("stands as last time, in pencil, without last time's figures", () => {
    const d = opening<Body>(given({}), STATE);
    expect(d.carried).toEqual(["read_at", "valve", "coupled"]);
    expect(d.body.amps_1).toBeUndefined();
    expect(hasFigures(d.body, order(3))).toBe(false);
  });
  it("stands as the record that is corrected, of its moment, nothing in pencil", () => {
    const record = { body: { amps_1: { text: "12" } }, taken_at: "2026-01-02T03:04:05Z" };
    const d = opening<Body>(given({ record: record as unknown as Schemas["RecordOut"] }), STATE);
    expect([d.body, d.carried, d.begun]).toEqual([record.body, [], record.taken_at]);
    expect(hasFigures(d.body, order(1))).toBe(true);
  });
});
