import { describe, expect, it } from "vitest";
import { isShown, put, rowOf, settingsOf, stated, taken, type Row, type Setting } from "./rows";

const rows: Row[] = put(put([], "accel", "found", "20"), "accel", "left", "25");

describe("rows of a drive's sheet", () => {
  it("keeps one row a parameter and drops it when nothing is said of it", () => {
    expect(rows).toHaveLength(1);
    const none = put(put(rows, "accel", "found", ""), "accel", "left", "");
    expect(none).toEqual([]);
    expect(rowOf(none, "accel").found).toBe("");
  });
  it("takes what a drive answered as found, and leaves what a person wrote", () => {
    const next = taken(rows, { accel: "5", decel: "6" });
    expect(rowOf(next, "accel")).toMatchObject({ found: "5", left: "25" });
    expect(settingsOf(next)).toEqual({ accel: "25", decel: "6" });
  });
  it("carries what was stated, never what was found", () => {
    const before = put(put(rows, "ref_range", "found", "0-10"), "ref_range", "should", "4-20");
    expect(stated(before)).toEqual([
      { id: "ref_range", found: "", left: "", should: "4-20", why: "", reason: "" },
    ]);
    expect(stated(null)).toEqual([]);
  });
  it("shows what was asked for", () => {
    const setting = { state: "wrong", moved: false } as Setting;
    expect(isShown(setting, "wrong")).toBe(true);
    expect(isShown(setting, "moved")).toBe(false);
    expect(isShown({ ...setting, state: "unsure" }, "unread")).toBe(true);
    expect(isShown(setting, "all")).toBe(true);
  });
});
