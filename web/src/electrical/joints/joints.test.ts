import { describe, expect, it } from "vitest";
import type { EnteredRule } from "../../base";
import { changed, fieldOf, placeOf, withFigure } from "../spots";
import { READ, rowsOf, rulesOf, shownAt, unplaced, type Spot } from "./sheet";

const RUNGS = [
  { id: "S.out", element: "S", side: "only", title: "Source" },
  { id: "F.in", element: "F", side: "line", title: "Fuses, line side" },
  { id: "F.out", element: "F", side: "load", title: "Fuses, load side" },
  { id: "M.in", element: "M", side: "only", title: "Motor" },
];
const VIEW = {
  rungs: RUNGS,
  legs: ["L1", "L2", "L3"],
  elements: ["S", "F", "M"].map((id) => ({ id, kind: "fuse", name: id, legs: [], taps: [], crossed: false })),
} as unknown as Parameters<typeof rulesOf>[1];
const typed = (text: string) => ({ text, unit: "degC" });

describe("a scan as it is typed", () => {
  it("reads temperatures at every rung, drops only across what has two sides", () => {
    expect(rowsOf(VIEW, "temp")).toEqual(RUNGS.map((r) => r.id));
    expect(rowsOf(VIEW, "drop")).toEqual(["F"]);
  });
  it("calls each field by its place, and takes the place from its name", () => {
    const rules = rulesOf({ temp: { label: "Joint temperature" } as EnteredRule }, VIEW);
    expect(rules["temp:F.in.2"]?.label).toBe("Fuses, line side, L2");
    expect(placeOf(fieldOf("drop", "F.3"), READ)).toEqual(["drop", "F.3"]);
    expect(placeOf("ambient", READ)).toBeNull();
  });
  it("keeps one figure per place, and a place only while something was read there", () => {
    const one = withFigure<Spot, "temp" | "drop">([], READ, "temp", "F.in.1", typed("46"));
    const two = withFigure(one, READ, "temp", "F.in.2", typed("61"));
    expect(two.map((s) => s.at)).toEqual(["F.in.1", "F.in.2"]);
    expect(withFigure(two, READ, "temp", "F.in.1", typed("47"))[0]?.temp?.text).toBe("47");
    expect(withFigure(two, READ, "temp", "F.in.1", null).map((s) => s.at)).toEqual(["F.in.2"]);
    const bare = changed(two, "F.in.2", { bare: true });
    expect(withFigure(bare, READ, "temp", "F.in.2", typed("62"))[1]?.bare).toBe(true);
  });
  it("takes every place off a picture that is gone, and no figure with it", () => {
    const spots = [{ at: "F.in.1", temp: typed("46"), x: 0.2, y: 0.4 }] as Spot[];
    expect(unplaced(spots)[0]).toMatchObject({ temp: typed("46"), x: null, y: null });
  });
  it("reads the picture where it is tapped, to its edges", () => {
    const tenths = new Int16Array([300, 301, 302, 914, 305, -52]);
    const cells = btoa(String.fromCharCode(...new Uint8Array(tenths.buffer)));
    const picture = { width: 3, height: 2, low: -5.2, high: 91.4, cells };
    expect(shownAt(picture, 0.1, 0.1)).toBe("30");
    expect(shownAt(picture, 0.01, 0.9)).toBe("91.4");
    expect(shownAt(picture, 1, 1)).toBe("-5.2");
  });
});
