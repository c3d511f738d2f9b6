import { act, cleanup, renderHook } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { inHand, laidDown, shown, T } from "../../base/test-sheets";
import type { Given } from "../../safety";
import { useWalk } from "./walk";

vi.mock("../../base", async (real) => ({
  ...(await real<object>()),
  ...(await import("../../base/test-sheets")).ofBase,
}));
vi.mock("../../logbook", async () => (await import("../../base/test-sheets")).ofLogbook);
vi.mock("../../instruments", async (real) => ({
  ...(await real<object>()),
  ...(await import("../../base/test-sheets")).ofInstruments,
}));
beforeEach(() => {
  laidDown({ answer: answer() });
});
afterEach(cleanup);

const STANDS = { contactor: "in", motor: "running", leads: "on", meter: "true" };
const next = (one = "k1.out.1", two = "ground", more: object = {}) => ({
  ...{ one, two, contactor: "in", meter: "true", waits: "" },
  ...more,
});
function answer(where: object | null = next(), more: object = {}) {
  const view = {
    next: where,
    stands: STANDS,
    legs: ["L1", "L2", "L3"],
    rungs: [{ id: "k1.out", title: "Main contactor, load side" }],
  };
  return { verdict: "unknown", view, ...more };
}
const given = (more: object = {}): Given =>
  ({
    set: { id: 7, tag: "C-1", site_id: 1, may: "technician" },
    bench: { name: "circuit" },
    case: { context: {}, extras: {} },
    mode: "new",
    record: null,
    ...more,
  }) as unknown as Given;
const walk = (more: object = {}) => renderHook(() => useWalk(given(more))).result;
const figure = (text: string) => ({ text, unit: "V" });
const last = () => inHand.asked.at(-1)?.entries.at(-1);

describe("a walk down a circuit", () => {
  it("has its probes where the core would put them, until somebody moves them", () => {
    const w = walk();
    expect(w.current.probes).toEqual({ one: "k1.out.1", two: "ground" });
    act(() => w.current.place({ one: "k1.out.2", two: "k1.out.3" }));
    expect(w.current.probes).toEqual({ one: "k1.out.2", two: "k1.out.3" });
    act(() => w.current.free());
    expect(w.current.probes.one).toBe("k1.out.1");
  });
  it("judges a figure while it is typed, with the pair that was in hand at its first key", () => {
    const w = walk();
    act(() => w.current.own.put("volts", figure("23")));
    expect(last()).toMatchObject({
      uuid: "typed-0000",
      taken_at: T(0),
      body: { kind: "reading", one: "k1.out.1", two: "ground", volts: figure("23"), ...STANDS },
    });
    // The core answers with another next: the probes stay until this one is entered.
    inHand.answer = answer(next("k1.out.2"));
    act(shown);
    expect(w.current.probes.one).toBe("k1.out.1");
  });
  it("enters a reading after the one before it, and goes on to where the core says", () => {
    inHand.entries = [{ uuid: "a", taken_at: T(5), device: "other", body: { kind: "reading" } }];
    const w = walk();
    act(() => w.current.own.put("volts", figure("230")));
    inHand.answer = answer(next("k1.out.3"));
    act(() => w.current.enter());
    expect(inHand.entries).toHaveLength(2);
    expect(inHand.entries[1]?.taken_at).toBe(new Date(Date.parse(T(5)) + 1).toISOString());
    expect(inHand.entries[1]?.body.volts).toEqual(figure("230"));
    expect(w.current.text).toBe("");
    expect(w.current.probes.one).toBe("k1.out.3");
  });
  it("enters nothing where nothing was typed", () => {
    const w = walk();
    act(() => w.current.own.put("volts", figure("  ")));
    act(() => w.current.enter());
    expect(inHand.entries).toEqual([]);
  });
  it("reads a current at one place, and keeps each quantity's own figure", () => {
    const w = walk();
    act(() => w.current.own.put("volts", figure("230")));
    act(() => w.current.read("amps"));
    expect(w.current.text).toBe("");
    act(() => w.current.own.put("amps", { text: "4.1", unit: "A" }));
    expect(last()?.body).not.toHaveProperty("two");
    expect(last()?.body.amps).toEqual({ text: "4.1", unit: "A" });
    act(() => w.current.read("volts"));
    expect(w.current.text).toBe("230");
  });
  it("waits for the state in which the next probe is meant, and no longer once it stands so", () => {
    inHand.answer = answer(next("k1.out.1", "ground", { contactor: "out", waits: "Stop it first." }));
    const w = walk();
    expect(w.current.waits).toBe("Stop it first.");
    act(() => w.current.stand({ contactor: "out" }));
    expect(w.current.waits).toBeNull();
    // Whoever puts the probes himself is not told to wait for another place.
    act(() => w.current.stand({ contactor: "in" }));
    act(() => w.current.place({ one: "a", two: "b" }));
    expect(w.current.waits).toBeNull();
  });
  it("goes on record with what is typed still, and with the note", async () => {
    const w = walk();
    act(() => w.current.own.put("volts", figure("23")));
    act(() => w.current.enter());
    act(() => w.current.own.put("volts", figure("24")));
    act(() => w.current.own.note?.set("warm cabinet"));
    await act(() => w.current.own.save());
    const [bench, sent, label, id] = inHand.put.mock.calls[0] ?? [];
    expect([bench, label, id]).toEqual(["circuit", "C-1 circuit", "sheet-1-record"]);
    expect(sent?.entries.map((e) => [e.body.kind, e.body.volts])).toEqual([
      ["reading", figure("23")],
      ["reading", figure("24")],
      ["said", undefined],
    ]);
    expect(sent?.entries.some((e) => e.uuid.startsWith("typed"))).toBe(false);
    expect(sent?.entries.at(-1)?.body.note).toBe("warm cabinet");
    expect(inHand.done).toHaveBeenCalledOnce();
  });
  it.each([
    ["in pencil", { mode: "pencil" }],
    ["by who may only look", { set: { id: 7, tag: "C-1", site_id: 1, may: "viewer" } }],
  ])("is never put on record %s", async (_, more) => {
    const w = walk(more);
    act(() => w.current.own.put("volts", figure("23")));
    await act(() => w.current.own.save());
    expect(inHand.put).not.toHaveBeenCalled();
  });
  it("opens a record with its readings, each at its own moment", () => {
    const body = { log: [3, 8].map((s) => ({ at: T(s), body: { kind: "reading", volts: figure("230") } })) };
    const w = walk({ mode: "correct", record: { id: 4, body, read_with: [], taken_at: T(0) } });
    expect(w.current.entries.map((e) => e.taken_at)).toEqual([T(3), T(8)]);
    expect(inHand.asked.at(-1)?.corrects).toBe(4);
  });
  it("names the places, and who began the walk", () => {
    laidDown({
      answer: answer(),
      by: "Leo",
      entries: [{ uuid: "a", taken_at: T(0), device: "o", body: {} }],
    });
    const w = walk();
    expect(w.current.titleOf("k1.out.2")).toBe("Main contactor, load side, L2");
    expect(w.current.titleOf("ground")).toBe("ground");
    expect(w.current.others).toContain("Leo started this walk.");
  });
});
