import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import { handOf, holdInHand } from "../base";
import { band, gap, groups, part, readers, stretch } from "./logic";
import { handOfRecord, type Instrument, type Register } from "./queries";

const register = (): Register => ({
  instruments: [
    tool(1, "Meter 3", ["voltage", "low_resistance"]),
    tool(2, "Clamp 2", ["current", "voltage"]),
  ],
  kinds: [],
  words: { voltage: "voltage", current: "current", low_resistance: "resistance" },
  in_hand: {},
  may: false,
});
function tool(id: number, name: string, reads: string[], more: Partial<Instrument> = {}): Instrument {
  return {
    id,
    name,
    kind: "multimeter",
    title: "Multimeter",
    category: "CAT III 600 V",
    low: false,
    spans: reads.map((r) => ({ reads: r, word: r, top: "1 V", step: "0.1 V" })),
    said: { name, kind: "multimeter", category: "III", category_volts: null, spans: [], note: "" },
    verdict: "good",
    says: "Calibration in date for 200 days.",
    left: 200,
    due: null,
    since: "2024-01-01T00:00:00Z",
    until: null,
    until_because: "",
    calibrations: [],
    version: 1,
    ...more,
  };
}
let told: Register = register();
vi.mock("./queries", async (own) => ({
  ...(await own<object>()),
  useRegisterOf: () => ({ data: told }),
}));
vi.mock("../base", async (own) => ({ ...(await own<object>()), useKeys: () => undefined }));
afterEach(() => {
  cleanup();
  told = register();
});

describe("what a sheet is read with", () => {
  it("offers those in service that measure it", () => {
    expect(readers(told, "voltage").map((i) => i.name)).toEqual(["Clamp 2", "Meter 3"]);
    told.instruments[0] = tool(1, "Meter 3", ["voltage"], { until: "2026-01-01T00:00:00Z" });
    expect(readers(told, "voltage").map((i) => i.name)).toEqual(["Clamp 2"]);
  });
  it("names each instrument once, and what nothing is chosen for last", () => {
    const said = groups(["voltage", "low_resistance", "current"], { current: "2", voltage: "2" }, told);
    expect(said.map((g) => [g.tool?.name ?? null, g.words])).toEqual([
      ["Clamp 2", "voltage, current"],
      [null, "resistance"],
    ]);
  });
  it("keeps what a record was read with, but for what several read", () => {
    const row = (reads: string, id: string) => ({ reads, id, word: reads, name: "" });
    expect(handOfRecord([row("voltage", "1"), row("current", "2"), row("current", "3")])).toEqual({
      voltage: "1",
    });
  });
  it("is of one person on one site", () => {
    holdInHand(handOf("tia", 1), { voltage: "1" });
    expect(localStorage.getItem("hurbin-hand:tia:1")).toBe('{"voltage":"1"}');
    expect(localStorage.getItem("hurbin-hand:tia:2")).toBeNull();
  });
  it("takes what is pressed, and lays it down again", async () => {
    const { ReadWith } = await import("./ReadWith");
    const take = vi.fn();
    const drawn = (hand: Record<string, string>) => (
      <ReadWith site={1} reads={["voltage", "vibration"]} named={{ hand, take }} may />
    );
    const { rerender } = render(drawn({}));
    screen.getByText("no instrument chosen for voltage");
    fireEvent.click(screen.getByText("Choose"));
    fireEvent.click(screen.getByRole("button", { name: /Meter 3/ }));
    expect(take).toHaveBeenLastCalledWith("voltage", "1");
    rerender(drawn({ voltage: "1" }));
    expect(screen.queryByText(/no instrument chosen/)).toBeNull();
    fireEvent.click(screen.getByRole("button", { name: /Meter 3/ }));
    expect(take).toHaveBeenLastCalledWith("voltage", null);
  });
  it("says of one out of date that it is, and asks a viewer for nothing", async () => {
    const { ReadWith } = await import("./ReadWith");
    told.instruments[1] = tool(2, "Clamp 2", ["current"], {
      verdict: "act",
      says: "Calibration 3 days overdue.",
    });
    render(
      <ReadWith site={1} reads={["current"]} named={{ hand: { current: "2" }, take: vi.fn() }} may={false} />,
    );
    screen.getByText("Calibration 3 days overdue.");
    expect(screen.queryByText("Choose")).toBeNull();
  });
});

describe("the board", () => {
  const today = new Date("2026-05-15T10:00:00Z");
  const s = stretch(today);
  it("reaches from a year back to a year on, today within", () => {
    expect(new Date(s.from).toISOString()).toBe("2025-06-01T00:00:00.000Z");
    expect(s.months.filter((m) => m.first).map((m) => m.date.getUTCFullYear())).toEqual([2026, 2027]);
    expect(part(s.from - 1, s)).toBe(0);
    expect(part(s.to + 1, s)).toBe(1);
  });
  it("draws the last day whole, and the time since it ran out", () => {
    const lasts = band("2026-01-01", "2026-05-15", s);
    expect(lasts.to).toBeCloseTo(part(Date.parse("2026-05-16"), s), 9);
    expect(gap("2026-05-15", today, s)).toBeNull();
    expect(gap("2026-05-14", today, s)).toEqual({
      from: part(Date.parse("2026-05-15"), s),
      to: part(today.getTime(), s),
    });
    expect(gap(null, today, s)).toBeNull();
  });
});
