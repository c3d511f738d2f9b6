import { describe, expect, it } from "vitest";
import { addedBelow, placesOf, rulesOf, type Control, type View } from "./sheet";
import type { EnteredRule } from "../../base";

const VIEW = {
  elements: [
    { id: "F", name: "Control fuse", bypassed: false, set_point: "" },
    { id: "L", name: "Tank level", bypassed: false, set_point: "1.2 m" },
    { id: "K", name: "Coil", bypassed: false, set_point: "" },
  ],
} as unknown as View;

describe("a control ladder as it is read", () => {
  it("is read to the common at every place, across what stands in it, by value where there is a set point", () => {
    expect(placesOf(VIEW, "volts")).toEqual(["source", "F", "L", "K"]);
    expect(placesOf(VIEW, "across")).toEqual(["F", "L", "K"]);
    expect(placesOf(VIEW, "value")).toEqual(["L"]);
  });
  it("has no field where the selector goes round", () => {
    const hand = { elements: VIEW.elements.map((e) => ({ ...e, bypassed: e.id === "L" })) } as View;
    expect(placesOf(hand, "volts")).toEqual(["source", "F", "K"]);
    expect(placesOf(hand, "value")).toEqual([]);
  });
  it("calls each field by its element and by what is read there", () => {
    const rules = rulesOf({ across: { label: "Voltage across it" } as EnteredRule }, VIEW);
    expect(rules["across:L"]?.label).toBe("Tank level, across it");
  });
  it("takes an element in beneath another, under an id of its own", () => {
    const control = {
      volts: 110,
      elements: [
        { id: "X1", kind: "fuse" },
        { id: "K", kind: "coil" },
      ],
    } as Control;
    const next = addedBelow(control, 0, "interlock");
    expect(next.elements.map((e) => e.id)).toEqual(["X1", "X2", "K"]);
    expect(next.elements[1]?.name).toBe("Interlock");
  });
});
