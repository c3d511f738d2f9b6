import { describe, expect, it } from "vitest";
import { concerns, Known, type Moved } from "./changes";

const moved = (
  kind: "set" | "site" | "van",
  ref: number,
  site: number,
  n: number,
  near: number[] = [],
): Moved => ({ kind, ref, site, n, near, at: "2026-03-02T09:00:00Z" });

describe("what moved", () => {
  it("is news once, however often the overlapping poll tells it", () => {
    const known = new Known();
    const told = [moved("set", 7, 1, 3), moved("set", 8, 1, 1)];
    expect(known.fresh(told)).toEqual(told);
    expect(known.fresh(told)).toEqual([]);
    expect(known.fresh([moved("set", 7, 1, 4), moved("set", 8, 1, 1)])).toEqual([moved("set", 7, 1, 4)]);
  });
  it("concerns the set's own reads, those of its mates and of its site, and no others", () => {
    const news = [moved("set", 7, 1, 3, [8])];
    const set = (id: number) => ["/api/v1/sets/{set_id}/safety", { set_id: id }];
    expect([7, 8, 9].map((id) => concerns(set(id), news))).toEqual([true, true, false]);
    expect([1, 2].map((id) => concerns(["/api/v1/sites/{site_id}/plant", { site_id: id }], news))).toEqual([
      true,
      false,
    ]);
    expect(concerns(set(9), [moved("site", 1, 1, 9)])).toBe(true);
    expect(concerns(["/api/v1/sheets/running", {}], news)).toBe(true);
    expect(concerns(["/api/v1/kinds", {}], news)).toBe(false);
    expect(concerns(["schema", "/api/v1/x"], news)).toBe(false);
  });
});
