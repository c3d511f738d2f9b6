import { act, cleanup, renderHook } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import api from "../../../../docs/openapi.json";
import { inHand, laidDown, T } from "../../base/test-sheets";
import type { Given } from "../../safety";
import { useTest } from "./useTest";

vi.mock("../../base", async (real) => ({
  ...(await real<object>()),
  ...(await import("../../base/test-sheets")).ofBase,
}));
vi.mock("../../instruments", async (real) => ({
  ...(await real<object>()),
  ...(await import("../../base/test-sheets")).ofInstruments,
}));
beforeEach(() => laidDown());
afterEach(cleanup);

const own = Object.entries(api.components.schemas).filter(([, s]) => "x-marks" in s);
const given = (more: object = {}): Given =>
  ({
    set: { id: 7, tag: "C-1", site_id: 1, may: "technician" },
    schema: { $defs: Object.fromEntries(own) },
    mode: "new",
    record: null,
    ...more,
  }) as unknown as Given;
const test = (more: object = {}) => renderHook(() => useTest(given(more))).result;
const entry = (seconds: number, body: Record<string, unknown>) => ({
  ...{ uuid: `at-${String(seconds)}`, taken_at: T(seconds), device: "other", body },
});
const ohms = (text: string, unit = "MOhm") => ({ text, unit });
const readings = () => inHand.entries.filter((e) => e.body.kind === "reading").map((e) => e.body);

describe("an insulation test under way", () => {
  it("asks at the times that the core names", () => {
    expect(own.length).toBeGreaterThan(0);
    expect(test().current.marks.map((m) => m.second)).toEqual(expect.arrayContaining([30, 60, 600]));
  });
  it("takes a reading at the second of its first key, whenever it is entered", () => {
    inHand.entries = [entry(0, { kind: "start", leg: "L2" })];
    const t = test();
    expect(t.current.running).toBe(true);
    inHand.now = T(60);
    act(() => t.current.type("ohms", ohms("8")));
    inHand.now = T(64);
    act(() => t.current.type("ohms", ohms("820")));
    inHand.now = T(71);
    act(() => t.current.take());
    expect(inHand.entries.at(-1)).toMatchObject({ taken_at: T(60), body: { leg: "L2", ohms: ohms("820") } });
    expect(inHand.entries.at(-1)?.body).not.toHaveProperty("seconds");
    // The unit stays in hand for the next, the figure does not.
    expect(t.current.entered("ohms")).toEqual(ohms(""));
  });
  it("begins the second anew once a figure was taken out again", () => {
    inHand.entries = [entry(0, { kind: "start", leg: "all" })];
    const t = test();
    inHand.now = T(20);
    act(() => t.current.type("ohms", ohms("7")));
    act(() => t.current.type("ohms", null));
    inHand.now = T(30);
    act(() => t.current.type("ohms", ohms("9")));
    act(() => t.current.take());
    expect(inHand.entries.at(-1)?.taken_at).toBe(T(30));
  });
  it("asks for the second where no test runs, and goes on to the next mark", () => {
    const t = test();
    act(() => t.current.type("ohms", ohms("500")));
    act(() => t.current.type("second", { text: "", unit: "s" }));
    act(() => t.current.take());
    expect(readings()).toEqual([]);
    act(() => t.current.type("second", { text: "30,5", unit: "s" }));
    act(() => t.current.take());
    expect(readings()).toEqual([{ kind: "reading", leg: "all", ohms: ohms("500"), seconds: 30.5 }]);
    const next = t.current.marks.find((m) => m.second > 30.5)?.second;
    expect(t.current.entered("second")).toEqual({ text: String(next), unit: "s" });
  });
  it.each(["sixty", "1e999x"])("takes nothing at “%s”", (text) => {
    const t = test();
    act(() => t.current.type("ohms", ohms("500")));
    act(() => t.current.type("second", { text, unit: "s" }));
    act(() => t.current.take());
    expect(readings()).toEqual([]);
    expect(t.current.entered("ohms")).toEqual(ohms("500"));
  });
  it("takes nothing without a figure", () => {
    inHand.entries = [entry(0, { kind: "start", leg: "all" })];
    const t = test();
    act(() => t.current.type("ohms", ohms("   ")));
    act(() => t.current.take());
    expect(readings()).toEqual([]);
  });
  it("says a figure of the setup once, when it is left, and only where it is another", () => {
    const t = test();
    act(() => t.current.type("winding", { text: "24", unit: "degC" }));
    expect(inHand.entries).toEqual([]);
    expect(t.current.entered("winding")?.text).toBe("24");
    act(() => t.current.commit("winding"));
    expect(inHand.entries.map((e) => e.body)).toEqual([
      { kind: "setup", winding: { text: "24", unit: "degC" } },
    ]);
    act(() => t.current.type("winding", { text: "24", unit: "degC" }));
    act(() => t.current.commit("winding"));
    act(() => t.current.type("winding", { text: " ", unit: "degC" }));
    act(() => t.current.commit("winding"));
    expect(inHand.entries).toHaveLength(1);
    act(() => t.current.type("winding", { text: "24", unit: "degF" }));
    act(() => t.current.commit("winding"));
    expect(inHand.entries).toHaveLength(2);
  });
  it("stands still after volts are off: another reading needs its second", () => {
    inHand.entries = [entry(0, { kind: "start", leg: "L1" }), entry(65, { kind: "end", leg: "L1" })];
    const t = test();
    expect(t.current.running).toBe(false);
    act(() => t.current.change({ leg: "L3", second: "60" }));
    act(() => t.current.type("ohms", ohms("40")));
    act(() => t.current.take());
    expect(readings()[0]).toMatchObject({ leg: "L3", seconds: 60 });
  });
  it("opens a record with its setup and readings, under its own hour", () => {
    const body = {
      setup: { test_volts: { text: "500", unit: "V" } },
      readings: [{ leg: "L1", seconds: 60 }],
    };
    const t = test({ mode: "correct", record: { id: 3, taken_at: T(-600), body, read_with: [] } });
    const entries = t.current.sheet.entries;
    expect(entries.map((e) => [e.body.kind, e.taken_at])).toEqual([
      ["setup", T(-600)],
      ["reading", T(-600)],
    ]);
    expect(new Set(entries.map((e) => e.uuid)).size).toBe(2);
  });
  it("keeps nothing in hand once it is over", () => {
    const t = test();
    act(() => t.current.type("ohms", ohms("500")));
    act(() => t.current.over());
    expect(inHand.done).toHaveBeenCalledOnce();
    expect(t.current.entered("ohms")?.text ?? "").toBe("");
  });
});
