import { describe, expect, it } from "vitest";
import { mergeEntries } from "../../base";
import { clockOf, markNow, rowsOf, watch, type Body, type Entry } from "./logic";

const T = Date.parse("2026-03-02T09:00:00Z");
let n = 0;
const e = (second: number, body: Body, uuid = `entry-${n++}`): Entry => ({
  uuid,
  taken_at: new Date(T + second * 1000).toISOString(),
  device: "d",
  body,
});
const ohms = (text: string) => ({ text, unit: "MOhm" });

describe("the insulation test's entries", () => {
  it("follows the run of the leg that volts were put on last", () => {
    const entries = [
      e(0, { kind: "start", leg: "L1" }),
      e(70, { kind: "end", leg: "L1" }),
      e(400, { kind: "discharged", leg: "L1" }),
    ];
    expect(clockOf(entries)).toEqual({
      leg: "L1",
      startedAt: T,
      endedAt: T + 70_000,
      dischargedAt: T + 400_000,
    });
    expect(clockOf([...entries, e(500, { kind: "start", leg: "L2" })])?.endedAt).toBeNull();
  });
  it("keeps the true second", () => {
    const entries = [
      e(0, { kind: "start", leg: "all" }),
      e(67, { kind: "reading", leg: "all", ohms: ohms("800") }),
      e(80, { kind: "reading", leg: "all", seconds: 45, ohms: ohms("700") }),
    ];
    expect(rowsOf(entries).map((r) => r.second)).toEqual([45, 67]);
  });
  it("asks for a mark as long as the core's times say, and not for one that was read", () => {
    const marks = [15, 30, 60, 600].map((second) => {
      const [asked, until] = [second - 4, second + Math.max(12, second / 10)];
      return { second, asked, until, within: 4 };
    });
    expect(markNow(marks, [], 25)).toEqual({ due: 15, next: 30 });
    expect(markNow(marks, [15], 25)).toEqual({ due: null, next: 30 });
    expect(markNow(marks, [], 29)).toEqual({ due: 30, next: 30 });
    expect(markNow(marks, [31], 33)).toEqual({ due: null, next: 60 });
    expect(markNow(marks, [], 605)).toEqual({ due: 600, next: null });
    expect(markNow([], [], 29)).toEqual({ due: null, next: null });
  });
  it("shows time as a stopwatch does", () =>
    expect([watch(67.4), watch(600), watch(-2)]).toEqual(["01:07", "10:00", "00:00"]));
  it("merges two devices, each entry once", () => {
    const [a, b] = [e(5, { kind: "start" }, "entry-a"), e(1, { kind: "setup" }, "entry-b")];
    expect(mergeEntries([a], [b, a]).map((x) => x.uuid)).toEqual(["entry-b", "entry-a"]);
  });
});
