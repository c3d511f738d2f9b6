import { act, cleanup, renderHook, waitFor } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { ApiError, type Schemas } from "../../base";
import { inHand, laidDown, T } from "../../base/test-sheets";
import { hasFigures, opening, useOneEntry } from "./useOneEntry";
import type { Given } from "./tools";

vi.mock("../../base", async (real) => ({
  ...(await real<object>()),
  ...(await import("../../base/test-sheets")).ofBase,
}));
vi.mock("../../logbook", async () => (await import("../../base/test-sheets")).ofLogbook);
vi.mock("../../instruments", async () => (await import("../../base/test-sheets")).ofInstruments);
beforeEach(() => {
  laidDown();
});
afterEach(cleanup);

const figure = (text: string) => ({ text, unit: "" });
const given = (more: object = {}): Given =>
  ({
    set: { id: 7, tag: "C-1", site_id: 1, may: "technician" },
    bench: { name: "shaft", title: "Shaft by hand" },
    schema: {},
    rules: {},
    case: { context: { last: null } },
    mode: "new",
    record: null,
    ...more,
  }) as unknown as Given;
const record = (body: object): Schemas["RecordOut"] =>
  ({ id: 31, taken_at: T(-9000), body }) as Schemas["RecordOut"];
const SHEET = { figures: ["torque", "angle"], kept: ["drained"] } as const;
const open = (more: object = {}, sheet: object = {}) =>
  renderHook(() => useOneEntry<"shaft">(given(more), { ...SHEET, ...sheet }));
const entry = () => inHand.asked.at(-1)?.entries[0];

describe("a sheet of one entry", () => {
  it("opens with what is as it was last time, and says so until it is touched", () => {
    const last = { context: { last: { body: { drained: "yes", torque: figure("4") } } } };
    const { result } = open({ case: last });
    expect(result.current.body).toEqual({ drained: "yes" });
    expect(result.current.carried).toEqual(["drained"]);
    act(() => result.current.change({ drained: "no" } as object));
    expect(result.current.carried).toEqual([]);
    expect(result.current.body).toEqual({ drained: "no" });
  });
  it("opens a correction with the whole record, at its own hour", () => {
    const { result } = open({ mode: "correct", record: record({ torque: figure("4") }) });
    expect(result.current.body).toEqual({ torque: figure("4") });
    expect(entry()?.taken_at).toBe(T(-9000));
    expect(inHand.asked.at(-1)?.corrects).toBe(31);
  });
  it("is taken at its first figure, and anew once all of them were taken out again", () => {
    const { result } = open();
    inHand.now = T(60);
    act(() => result.current.own.put("torque", figure("4")));
    inHand.now = T(120);
    act(() => result.current.own.put("angle", figure("30")));
    expect(entry()?.taken_at).toBe(T(60));
    act(() => result.current.own.put("torque", figure(" ")));
    act(() => result.current.own.put("angle", null));
    expect(result.current.own.any).toBe(false);
    inHand.now = T(300);
    act(() => result.current.own.put("torque", figure("5")));
    expect(entry()?.taken_at).toBe(T(300));
  });
  it("is worth putting on record by something said as well, where the bench says so", () => {
    const { result } = open({}, { also: (b: Record<string, unknown>) => b.binds === "yes" });
    expect(result.current.own.any).toBe(false);
    act(() => result.current.change({ binds: "yes" } as object));
    expect(result.current.own.any).toBe(true);
  });
  it("goes on record with the verdict that was seen, and begins anew", async () => {
    const { result } = open();
    act(() => result.current.own.put("torque", figure("4")));
    act(() => result.current.own.note?.set("stiff at first"));
    inHand.answer = { verdict: "watch" };
    act(() => result.current.own.put("angle", figure("30")));
    await act(() => result.current.own.save());
    const [bench, sent, label] = inHand.put.mock.calls[0] ?? [];
    expect([bench, label, sent?.seen]).toEqual(["shaft", "C-1 shaft by hand", "watch"]);
    expect(sent?.entries).toHaveLength(1);
    expect(sent?.entries[0]?.body).toEqual({
      ...{ torque: figure("4"), angle: figure("30"), note: "stiff at first" },
    });
    expect(sent?.entries[0]?.instruments).toEqual({ resistance: "3" });
    await waitFor(() => expect(result.current.body).toEqual({}));
    expect(result.current.own.sheet).not.toBe(sent?.sheet);
  });
  it("names no verdict that was of the figures before", async () => {
    const { result } = open();
    Object.assign(inHand, { answer: { verdict: "good" }, before: true });
    act(() => result.current.own.put("torque", figure("4")));
    await act(() => result.current.own.save());
    expect(inHand.put.mock.calls[0]?.[1].seen).toBeNull();
  });
  it("keeps what was typed when it is refused, under another id where that one is used", async () => {
    const { result } = open();
    act(() => result.current.own.put("torque", figure("4")));
    const first = result.current.own.sheet;
    inHand.refused = new ApiError(400, "figure_wrong", "No.");
    await act(() => result.current.own.save());
    expect(result.current.own.sheet).toBe(first);
    inHand.refused = new ApiError(409, "sheet_id_used", "No.");
    await act(() => result.current.own.save());
    expect(result.current.own.sheet).not.toBe(first);
    expect(result.current.body).toEqual({ torque: figure("4") });
  });
  it.each([
    ["in pencil", { mode: "pencil", record: record({ torque: figure("4") }) }],
    ["by who may only look", { set: { id: 7, tag: "C-1", site_id: 1, may: "viewer" } }],
    ["without a figure", { note: "x" }],
  ])("is never put on record %s", async (why, more) => {
    const { result } = open(more);
    if (why.startsWith("by")) act(() => result.current.own.put("torque", figure("4")));
    await act(() => result.current.own.save());
    expect(inHand.put).not.toHaveBeenCalled();
  });
  it("stays apart from the same bench's sheet of a record", () => {
    const first = open();
    act(() => first.result.current.own.put("torque", figure("4")));
    const second = open({ mode: "correct", record: record({ torque: figure("9") }) });
    expect(second.result.current.body).toEqual({ torque: figure("9") });
    expect(open().result.current.body).toEqual({ torque: figure("4") });
  });
});

describe("what a sheet opens with", () => {
  it("carries nothing that last time did not say", () => {
    const last = { context: { last: { body: { drained: null, locked: "yes" } } } };
    expect(opening(given({ case: last }), ["drained", "locked", "vented"])).toMatchObject({
      body: { locked: "yes" },
      carried: ["locked"],
      begun: "",
    });
  });
  it("takes a blank for no figure", () => {
    expect(hasFigures({ torque: figure("  ") }, ["torque"])).toBe(false);
    expect(hasFigures({ torque: figure("0") }, ["torque"])).toBe(true);
    expect(hasFigures({ other: figure("3") }, ["torque"])).toBe(false);
  });
});
