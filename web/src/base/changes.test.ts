import { describe, expect, it } from "vitest";
import { QueryClient } from "@tanstack/react-query";
import { concerns, Known, renew, whereOf, type Moved } from "./changes";

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

describe("what an act of this page made old", () => {
  it("is told by its address, or by what was sent", () => {
    expect(whereOf("/api/v1/sets/7/events")).toEqual({ set: 7 });
    expect(whereOf("/api/v1/benches/x/records", { set_id: 9 })).toEqual({ set: 9 });
    expect(whereOf("/api/v1/sites/3/people/jun")).toEqual({ site: 3 });
    expect(whereOf("/api/v1/components/5/plates", { reason: "" })).toBe("anything");
  });
  const read = ["/api/v1/sets/{set_id}/state", "/api/v1/sets/{set_id}", "/api/v1/sites/{site_id}/plant"];
  const client = () => {
    const c = new QueryClient();
    for (const set_id of [7, 8]) {
      c.setQueryData([read[0], { set_id }], {});
      c.setQueryData([read[1], { set_id }], { site_id: 1 });
    }
    for (const site_id of [1, 2]) c.setQueryData([read[2], { site_id }], {});
    c.setQueryData(["/api/v1/kinds", {}], {});
    return c;
  };
  const old = (c: QueryClient) =>
    c
      .getQueryCache()
      .getAll()
      .filter((q) => q.state.isInvalidated)
      .map((q) => Object.values((q.queryKey[1] as object) ?? {}).join() || String(q.queryKey[0]));
  it("is what hangs on its set and on that set's site, and no other", async () => {
    const c = client();
    await renew(c, { set: 7 });
    expect(old(c)).toEqual(["7", "7", "1"]);
  });
  it("is every set's and that site's where the site moved; all of it where it cannot be told", async () => {
    const site = client();
    await renew(site, { site: 2 });
    expect(old(site)).toEqual(["7", "7", "8", "8", "2"]);
    const anything = client();
    await renew(anything, { set: 99 });
    expect(old(anything)).toHaveLength(7);
  });
});
