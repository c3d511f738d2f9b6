import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, fireEvent, render, screen, waitFor, within } from "@testing-library/react";
import { MemoryRouter } from "react-router";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { ApiError, type Schemas } from "../base";
import { catchWrites, writes } from "../base/test-writes";
import { StoresPage } from "./StoresPage";

let told: Schemas["StoresOut"];
vi.mock("../base/session", async (real) => ({
  ...(await real<object>()),
  useMe: () => ({ username: "ada", locale: "en-GB", units: {} }),
}));
vi.mock("../base", async (real) => ({
  ...(await real<object>()),
  useGet: () => ({ data: told, error: null, refetch: vi.fn() }),
}));
vi.mock("../plant", () => ({
  useSites: () => ({ data: [{ id: 1, time_zone: "UTC" }] }),
  chosenSite: (list: unknown[]) => list[0],
}));
vi.mock("./Kits", () => ({ Kits: () => <p>the kits</p> }));
const { sent } = writes;
beforeEach(catchWrites);
afterEach(() => {
  cleanup();
  vi.restoreAllMocks();
});

const spare = (id: number, code: string, more: object = {}): Schemas["SpareOut"] =>
  ({
    ...{ id, code, title: `Part ${code}`, version: 1, verdict: "good", says: "Enough.", why: "", asks: [] },
    ...{ least: 1, most: 3, least_set: false, order: 0, lines: ["seal"], fits: [], moves: [] },
    ...{ per_year: null, lead_days: null, price: null, day_cost: null },
    stock: [{ place: "Store", count: 2, reserved: 1, emergency: 0 }],
    ...more,
  }) as unknown as Schemas["SpareOut"];
function open(parts: Schemas["SpareOut"][], more: object = {}, at = "/stores") {
  told = { parts, kits: [], places: ["Store", "Van 1"], may: true, ...more } as typeof told;
  render(
    <QueryClientProvider client={new QueryClient()}>
      <MemoryRouter initialEntries={[at]}>
        <StoresPage />
      </MemoryRouter>
    </QueryClientProvider>,
  );
}
const shelf = (code: string) => within(document.querySelector(`[data-spare="${code}"]`) as HTMLElement);
const type = (code: string, label: string, value: string) =>
  fireEvent.change(shelf(code).getByLabelText(label), { target: { value } });
const button = (code: string, name: string) =>
  shelf(code).getByRole<HTMLButtonElement>("button", { name, hidden: true });

describe("the shelves", () => {
  it("say first what has to be ordered, and where everything is", () => {
    open([spare(1, "S-16", { order: 2, verdict: "act", says: "Short." }), spare(2, "G-2")]);
    expect(screen.getByText("To order: 2 × S-16.")).toBeTruthy();
    expect(shelf("S-16").getByText("Short.")).toBeTruthy();
    expect(shelf("G-2").getByLabelText("G-2 in Store").textContent).toBe("2");
    expect(shelf("G-2").getByText(", 1 reserved")).toBeTruthy();
  });
  it("say how to begin where there is nothing on them", () => {
    open([]);
    expect(screen.getByText(/No part yet\. Add one, or import a list/)).toBeTruthy();
    expect(screen.queryByText(/To order/)).toBeNull();
  });
  it("are found by code, name or kit line once there are many", () => {
    open(
      Array.from({ length: 9 }, (_, i) => spare(20 + i, `P-${String(i)}`, { lines: [`line_${String(i)}`] })),
    );
    fireEvent.change(screen.getByLabelText("Find a part"), { target: { value: " LINE_7 " } });
    expect([...document.querySelectorAll("[data-spare]")].map((x) => x.getAttribute("data-spare"))).toEqual([
      ...["P-7"],
    ]);
    cleanup();
    open([spare(30, "P-1")]);
    expect(screen.queryByLabelText("Find a part")).toBeNull();
  });
  it("open at one part by its label's code, with a way back to all", () => {
    open([spare(31, "S-16"), spare(32, "G-2")], {}, "/stores?part=32");
    expect(document.querySelectorAll("[data-spare]")).toHaveLength(1);
    expect(screen.queryByText("the kits")).toBeNull();
    fireEvent.click(screen.getByRole("button", { name: "All parts" }));
    expect(document.querySelectorAll("[data-spare]")).toHaveLength(2);
  });
  it("offer nothing to change to who may only look", () => {
    open([spare(33, "S-16")], { may: false });
    expect(shelf("S-16").queryAllByRole("button", { hidden: true })).toEqual([]);
    expect(screen.queryByLabelText("Code")).toBeNull();
  });
});

describe("a count by thumb", () => {
  it("says one more or one less, each tap with a name of its own", async () => {
    open([spare(41, "S-16")]);
    fireEvent.click(button("S-16", "one S-16 less in Store"));
    fireEvent.click(button("S-16", "one S-16 less in Store"));
    fireEvent.click(button("S-16", "one S-16 more in Store"));
    await waitFor(() => expect(sent).toHaveLength(3));
    expect(sent.map((s) => s.body.change)).toEqual([-1, -1, 1]);
    expect(new Set(sent.map((s) => s.body.key)).size).toBe(3);
    expect(sent.every((s) => s.body.key === s.id && s.path === "/api/v1/parts/41/tally")).toBe(true);
  });
  it("takes nothing off an empty shelf, and says why a tap was refused", async () => {
    open([spare(42, "S-16", { stock: [{ place: "Van 1", count: 0, reserved: 0, emergency: 1 }] })]);
    expect(shelf("S-16").queryByRole("button", { name: "one S-16 less in Van 1" })).toBeNull();
    expect(shelf("S-16").getByText(", 1 emergency only")).toBeTruthy();
    writes.refuse = new ApiError(409, "tap_differs", "This tap is on file for another place.");
    fireEvent.click(button("S-16", "one S-16 more in Van 1"));
    expect((await shelf("S-16").findByRole("alert")).textContent).toContain("on file for another place");
  });
});

describe("a shelf counted whole", () => {
  it("waits for whole numbers, the emergency ones too", async () => {
    open([spare(51, "S-16")]);
    const save = button("S-16", "Save count");
    expect(save.disabled).toBe(true);
    type("S-16", "Counted", "2.5");
    expect(save.disabled).toBe(true);
    type("S-16", "Counted", "4");
    expect(save.disabled).toBe(false);
    type("S-16", "Emergency only", "one");
    expect(save.disabled).toBe(true);
    expect(shelf("S-16").getByText("Emergency only: a whole number, or nothing.")).toBeTruthy();
    type("S-16", "Emergency only", "1");
    fireEvent.click(save);
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]).toMatchObject({
      ...{ method: "PUT", path: "/api/v1/parts/51/count" },
      body: { place: "Store", count: 4, emergency: 1 },
    });
  });
  it("leaves the emergency ones as they are where nothing is said of them", async () => {
    open([spare(52, "S-16")]);
    type("S-16", "Counted", "4");
    fireEvent.click(button("S-16", "Save count"));
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]?.body).not.toHaveProperty("emergency");
  });
  it("moves from one place to another, once both are named", async () => {
    open([spare(53, "S-16")]);
    type("S-16", "How many", "1");
    type("S-16", "From", "Store");
    expect(button("S-16", "Move").disabled).toBe(true);
    type("S-16", "To", "Van 1");
    fireEvent.click(button("S-16", "Move"));
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]).toMatchObject({
      ...{ path: "/api/v1/parts/53/move" },
      body: { source: "Store", to: "Van 1", count: 1 },
    });
  });
});
