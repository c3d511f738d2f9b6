import { act, cleanup, renderHook } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import api from "../../../../docs/openapi.json";
import { inHand, laidDown, T } from "../../base/test-sheets";
import type { Given } from "../../safety";
import { useVisit } from "./visit";

vi.mock("../../base", async (real) => ({
  ...(await real<object>()),
  ...(await import("../../base/test-sheets")).ofBase,
}));
vi.mock("../../logbook", async () => (await import("../../base/test-sheets")).ofLogbook);
vi.mock("../../instruments", async (real) => ({
  ...(await real<object>()),
  ...(await import("../../base/test-sheets")).ofInstruments,
}));
const answer = (taken: string, more: object = {}) => ({
  verdict: "watch",
  view: { passes: [], defaults: { taken } },
  ...more,
});
beforeEach(() => laidDown({ answer: answer("as_found") }));
afterEach(cleanup);

const schema = { $defs: { PassRead: api.components.schemas.PassRead } };
const given = (more: object = {}, last: object | null = null): Given =>
  ({
    set: { id: 7, tag: "C-1", site_id: 1, may: "technician" },
    bench: { name: "alignment" },
    schema,
    case: { context: { last: last && { body: last } } },
    mode: "new",
    record: null,
    ...more,
  }) as unknown as Given;
const visit = (more: object = {}, last: object | null = null) =>
  renderHook(() => useVisit(given(more, last))).result;
const figure = (text: string, unit = "mm") => ({ text, unit });
const kinds = () => inHand.entries.map((e) => e.body.kind);

describe("a visit to a coupling", () => {
  it("knows the set's measures and packs from last time, and none of its readings", () => {
    const last = {
      x_front: figure("200"),
      pack_front_left: "1.0 mm",
      method: "rim_face",
      rim_3: figure("9"),
    };
    const v = visit({}, last);
    expect(v.current.body).toMatchObject({
      ...{ x_front: figure("200"), pack_front_left: "1.0 mm", method: "rim_face", taken: "as_found" },
    });
    expect(v.current.body).not.toHaveProperty("rim_3");
    expect(v.current.own.any).toBe(false);
    expect(v.current.own.order[0]).toBe("rim_3");
  });
  it("says measures and what was looked at apart from the pass, each once", () => {
    const v = visit({}, { x_front: figure("200") });
    act(() => v.current.change({ x_front: figure("210"), soft_front_left: figure("0.02") }));
    act(() => v.current.change({ step_12: figure("0.25"), guard_on: true }));
    expect(inHand.asked.at(-1)?.entries.map((e) => e.body.kind)).toEqual([
      "measures",
      "before",
      "fit",
      "pass",
    ]);
    act(() => v.current.keepPass());
    expect(kinds()).toEqual(["measures", "before", "fit", "pass"]);
    expect(inHand.entries[3]?.body.step_12).toEqual(figure("0.25"));
    expect(v.current.hasPass).toBe(false);
    // What stands is not said again by the next pass.
    act(() => v.current.change({ x_front: figure("210"), step_12: figure("0.10") }));
    act(() => v.current.keepPass());
    expect(kinds().slice(4)).toEqual(["pass"]);
  });
  it("counts since the first key, one after the other, and after what is on the sheet", () => {
    inHand.entries = [{ uuid: "a", taken_at: T(90), device: "other", body: { kind: "pass" } }];
    const v = visit();
    inHand.now = T(60);
    act(() => v.current.change({ step_12: figure("0.25") }));
    inHand.now = T(80);
    act(() => v.current.change({ x_front: figure("200") }));
    act(() => v.current.keepPass());
    const after = Date.parse(T(90)) + 1;
    expect(inHand.entries.slice(1).map((e) => Date.parse(e.taken_at))).toEqual([after, after + 1]);
  });
  it("keeps what is typed before it says that something was moved, and takes the pushes along", () => {
    const v = visit();
    act(() => v.current.change({ step_12: figure("0.25"), pushed_front: figure("0.1"), van: "Van 9" }));
    act(() => v.current.moved({ pack_rear_left: "1.25 mm" }));
    expect(kinds().at(-1)).toBe("moved");
    expect(kinds()).toContain("pass");
    expect(inHand.entries.at(-1)?.body).toMatchObject({
      ...{ pack_rear_left: "1.25 mm", pushed_front: figure("0.1") },
    });
    expect(v.current.body.pushed_front ?? null).toBeNull();
  });
  it("tries packs in pencil, and keeps none of them", () => {
    const v = visit();
    act(() => v.current.setTries({ pack_rear_left: "2.0 mm" }));
    expect(inHand.asked.at(-1)?.entries.at(-1)?.body).toEqual({ kind: "try", pack_rear_left: "2.0 mm" });
    act(() => v.current.change({ step_12: figure("0.25") }));
    act(() => v.current.keepPass());
    expect(kinds()).toEqual(["pass"]);
    expect(v.current.tries).toEqual({});
  });
  it("goes on record with what is typed still, under the verdict that was seen", async () => {
    const v = visit();
    act(() => v.current.change({ step_12: figure("0.25") }));
    act(() => v.current.keepPass());
    act(() => v.current.change({ step_12: figure("0.05") }));
    await act(() => v.current.own.save());
    const [bench, sent, label, id] = inHand.put.mock.calls[0] ?? [];
    expect([bench, label, id, sent?.seen]).toEqual(["alignment", "C-1 alignment", "sheet-1-record", "watch"]);
    expect(sent?.entries.map((e) => e.body.step_12)).toEqual([figure("0.25"), figure("0.05")]);
    expect(new Set(sent?.entries.map((e) => e.uuid)).size).toBe(2);
    expect(inHand.done).toHaveBeenCalledOnce();
  });
  it("names no verdict of the figures before, and sends nothing in pencil or by who may only look", async () => {
    const v = visit();
    act(() => v.current.change({ step_12: figure("0.25") }));
    inHand.before = true;
    act(() => v.current.change({ step_3: figure("0") }));
    await act(() => v.current.own.save());
    expect(inHand.put.mock.calls[0]?.[1].seen).toBeNull();
    for (const more of [{ mode: "pencil" }, { set: { id: 8, tag: "C-2", site_id: 1, may: "viewer" } }]) {
      const other = visit(more);
      act(() => other.current.change({ step_12: figure("0.25") }));
      await act(() => other.current.own.save());
    }
    expect(inHand.put).toHaveBeenCalledOnce();
  });
  it("corrects a record's last pass, and leaves those before it as they were", () => {
    const log = ["0.40", "0.05"].map((text, i) => ({
      at: T(i * 60),
      body: { kind: "pass", step_12: figure(text) },
    }));
    const record = { id: 5, taken_at: T(60), body: { log }, read_with: [] };
    const v = visit({ mode: "correct", record });
    expect(v.current.body.step_12).toEqual(figure("0.05"));
    expect(v.current.entries.map((e) => e.body.step_12)).toEqual([figure("0.40")]);
    const asked = inHand.asked.at(-1);
    expect(asked?.corrects).toBe(5);
    expect(asked?.entries.map((e) => e.taken_at)).toEqual([T(0), T(60)]);
  });
  it("says who began it, and is left without a record under its reason", async () => {
    laidDown({ answer: answer("as_left"), by: "Leo" });
    inHand.entries = [{ uuid: "a", taken_at: T(0), device: "o", body: { kind: "pass" } }];
    const v = visit();
    expect(v.current.others).toContain("Leo started this alignment.");
    expect(v.current.drawnUp).toBe(true);
    act(() => v.current.own.reason.set("wrong coupling"));
    await act(() => v.current.leave() as Promise<void>);
    expect(inHand.left).toHaveBeenCalledWith(
      "sheet-1",
      "wrong coupling",
      "C-1, alignment closed without record",
    );
  });
});
