import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, fireEvent, render, screen, waitFor, within } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { ApiError } from "../base";
import { catchWrites, writes } from "../base/test-writes";
import { InstrumentForm } from "./InstrumentForm";
import type { Instrument, Register } from "./queries";

vi.mock("../base/session", async (real) => ({
  ...(await real<object>()),
  useMe: () => ({ username: "ada", locale: "en-GB", units: { voltage: "kV" } }),
}));
vi.mock("../base/queries", async (real) => ({
  ...(await real<object>()),
  useSymbols: () => ({ V: "V", kV: "kV", MOhm: "MΩ", degC: "°C" }),
}));
const { sent } = writes;
beforeEach(catchWrites);
afterEach(() => {
  cleanup();
  vi.restoreAllMocks();
});

const KINDS = [
  {
    ...{ id: "tester", title: "Voltage tester", live: true },
    reads: [
      { reads: "voltage", word: "voltage", units: ["V", "kV"] },
      { reads: "resistance", word: "resistance", units: ["MOhm"] },
    ],
  },
  {
    ...{ id: "thermometer", title: "Thermometer", live: false },
    reads: [{ reads: "temperature", word: "temperature", units: ["degC"] }],
  },
] as unknown as Register["kinds"];
const figure = (text: string, unit: string) => ({ text, unit });
const TOOL = {
  ...{ id: 9, name: "Tester 1", kind: "tester", version: 4 },
  said: {
    ...{ name: "Tester 1", kind: "tester", category: "III", category_volts: figure("600", "V"), note: "red" },
    spans: [{ reads: "voltage", top: figure("1000", "V"), step: figure("1", "V") }],
  },
} as unknown as Instrument;
function open(site: number, tool?: Instrument) {
  const close = vi.fn();
  render(
    <QueryClientProvider client={new QueryClient()}>
      <InstrumentForm site={site} kinds={KINDS} tool={tool} close={close} />
    </QueryClientProvider>,
  );
  return close;
}
const type = (label: string, value: string) =>
  fireEvent.change(screen.getByLabelText(label), { target: { value } });
const press = (name: string) => fireEvent.click(screen.getByRole("button", { name }));

describe("an instrument entered", () => {
  it("waits for its label", () => {
    open(1);
    const button = screen.getByRole<HTMLButtonElement>("button", { name: "Add to the register" });
    expect(button.disabled).toBe(true);
    fireEvent.click(button);
    expect(sent).toEqual([]);
    type("Label", "Tester 2");
    expect(button.disabled).toBe(false);
  });
  it("sends the scales that were typed and no other, each with the unit it was typed in", async () => {
    const close = open(2);
    type("Label", "Tester 2");
    type("Measurement category", "IV");
    type("its voltage", "600");
    type("voltage, up to", "1");
    type("In service since (today, if empty)", "2026-02-01");
    press("Add to the register");
    await waitFor(() => expect(close).toHaveBeenCalledOnce());
    expect(sent[0]).toMatchObject({
      ...{ method: "POST", path: "/api/v1/sites/2/instruments" },
      body: {
        ...{ name: "Tester 2", kind: "tester", category: "IV", category_volts: { text: "600", unit: "V" } },
        spans: [{ reads: "voltage", top: figure("1", "kV"), step: { text: "" } }],
        since: "2026-02-01",
      },
    });
  });
  it("asks no category of what is never on live parts, and sends none that was chosen before", async () => {
    open(3);
    type("Label", "Probe");
    type("Measurement category", "III");
    type("Kind", "thermometer");
    expect(screen.queryByLabelText("Measurement category")).toBeNull();
    const scales = within(screen.getByRole("list", { name: "What it measures" }));
    expect(scales.getAllByRole("listitem")).toHaveLength(1);
    press("Add to the register");
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]?.body).toMatchObject({ category: "", category_volts: null, spans: [], since: null });
  });
  it("changes one as it is known, under its version, and never its kind", async () => {
    open(4, TOOL);
    expect(screen.getByLabelText<HTMLSelectElement>("Kind").disabled).toBe(true);
    expect(screen.queryByLabelText(/In service since/)).toBeNull();
    type("voltage, by steps of", "0.1");
    press("Save changes");
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]).toMatchObject({
      ...{ method: "PUT", path: "/api/v1/instruments/9" },
      body: {
        ...{ version: 4, note: "red", category: "III" },
        spans: [{ top: figure("1000", "V"), step: figure("0.1", "V") }],
      },
    });
  });
  it("stays open when it is refused, and is dropped when it is cancelled", async () => {
    writes.refuse = new ApiError(409, "name_used", "Another instrument has this label.");
    const close = open(5);
    type("Label", "Tester 1");
    press("Add to the register");
    expect((await screen.findByRole("alert")).textContent).toContain("Another instrument has this label.");
    expect(close).not.toHaveBeenCalled();
    expect(screen.getByLabelText<HTMLInputElement>("Label").value).toBe("Tester 1");
    press("Cancel");
    expect(close).toHaveBeenCalledOnce();
    cleanup();
    open(5);
    expect(screen.getByLabelText<HTMLInputElement>("Label").value).toBe("");
  });
});
