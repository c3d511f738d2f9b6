import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, fireEvent, render, screen, within } from "@testing-library/react";
import { MemoryRouter } from "react-router";
import { afterEach, describe, expect, it, vi } from "vitest";
import { ApiError, type Schemas } from "../../base";
import { catchWrites, writes } from "../../base/test-writes";
import { RulesPage } from "./RulesPage";

type Rules = Schemas["RulesOut"];
const from = { source: "IEC 1", certainty: "standard" as const, from_memory: false, why: "It heats." };
const limit = (id: string, topic: string, more: object = {}): Rules["limits"][number] => ({
  ...{ id, topic, title: `Limit ${id}`, shown: "5 %", unit: "percent", symbol: "%", fixed: false },
  ...{ overrides: [], ...from, ...more },
});
const override = {
  ...{ id: 9, set_tag: "", shown: "25 %" },
  override: { by: "Tia", at: "2026-03-02T09:00:00Z", reason: "tide takes it down" },
} as Rules["limits"][number]["overrides"][number];
const rule = (id: string, topic: string, limits: string[]): Rules["rules"][number] => ({
  ...{ id, topic, limits, title: `Rule ${id}`, formula: "100 × a ÷ b", ticks: [], zones: [], ...from },
});
let rules: Rules;
vi.mock("../../base", async (real) => ({ ...(await real<object>()), useMe: () => ({ locale: "en-GB" }) }));
vi.mock("../queries", () => ({ useRules: () => ({ data: rules, error: null, refetch: vi.fn() }) }));
vi.mock("../../plant", () => ({
  useSites: () => ({ data: [{ id: 1, time_zone: "UTC" }], error: null, refetch: vi.fn() }),
  chosenSite: (list: unknown[]) => list[0],
}));
afterEach(cleanup);

function shown(at = "/rules", more: Partial<Rules> = {}) {
  rules = {
    ...{ rules_version: "1", role: "technician" },
    topics: [
      { key: "safety", room: "Safety", title: "Safety" },
      { key: "electrical", room: "Electrical", title: "Electrical in general" },
      { key: "electrical/ohms", room: "Electrical", title: "Resistance" },
    ],
    rules: [rule("past", "electrical", ["fall"]), rule("spread", "electrical/ohms", ["unbalance"])],
    limits: [
      limit("fall", "electrical", { title: "Median may fall", overrides: [override] }),
      limit("unbalance", "electrical/ohms"),
      limit("lone", "safety", { title: "A lone figure", fixed: true }),
    ],
    tables: [
      { id: "t", topic: "electrical/ohms", title: "Copper", columns: ["to, °C"], rows: [["234"]], ...from },
    ],
    schools: [
      ...[{ id: "s", topic: "safety", title: "Who tries", options: { a: "one", b: "two" }, default: "a" }],
    ].map((s) => ({ ...s, why: "Both are held.", overrides: [] })),
    ...more,
  };
  render(
    <QueryClientProvider client={new QueryClient()}>
      <MemoryRouter initialEntries={[at]}>
        <RulesPage />
      </MemoryRouter>
    </QueryClientProvider>,
  );
  const topics = within(screen.getByRole("navigation", { name: "Topics" }));
  const entries = () => topics.getAllByRole("link").map((a) => a.textContent);
  return { topics, entries, seek: screen.getByRole("searchbox") };
}
const rows = () => [...document.querySelectorAll("[data-rule],[data-table]")].map((r) => r.textContent);

describe("the rulebook", () => {
  it("opens with what this site does otherwise, and marks the topic", () => {
    const { entries, topics } = shown();
    expect(rows()).toHaveLength(1);
    expect(rows()[0]).toContain("✎ 25 % site limit, set by Tia");
    expect(entries()).toEqual([
      ...["✎ Where this site differs 1", "Where practice differs 1", "Tables 1"],
      ...["Safety 2", "Electrical in general ✎1", "Resistance 2"],
    ]);
    // A room with nothing else in it needs no heading over itself.
    expect(topics.getAllByRole("heading").map((h) => h.textContent)).toEqual(["Electrical"]);
  });
  it("says so where a site has nothing of its own", () => {
    shown("/rules", { limits: [limit("fall", "electrical"), limit("unbalance", "electrical/ohms")] });
    expect(screen.getByText(/works by the published ones/)).toBeTruthy();
    expect(rows()).toEqual([]);
  });
  it("finds by the words of a rule's limits in every topic, and within one", () => {
    const { seek, topics } = shown();
    expect(screen.getByRole("status").textContent).toBe("");
    fireEvent.change(seek, { target: { value: "heats MEDIAN" } });
    expect(rows()).toHaveLength(1);
    expect(screen.getByRole("status").textContent).toBe("1 found");
    fireEvent.click(topics.getByRole("link", { name: /Resistance/ }));
    expect(screen.getByText(/Nothing goes by these words here/)).toBeTruthy();
    fireEvent.change(seek, { target: { value: "" } });
    expect(screen.getByRole("status").textContent).toBe("2 found");
  });
  it("draws a table's figures once it is opened", () => {
    shown("/rules?topic=electrical%2Fohms");
    const table = document.querySelector<HTMLDetailsElement>("[data-table=t]");
    expect(screen.queryByText("234")).toBeNull();
    if (table) table.open = true;
    fireEvent(table as Element, new Event("toggle"));
    expect(screen.getByText("234")).toBeTruthy();
  });
  it("offers a figure of the site's own to a lead alone, and never over one that is fixed", () => {
    shown("/rules?topic=safety");
    expect(screen.queryByRole("button")).toBeNull();
    cleanup();
    shown("/rules?topic=safety", { role: "lead" });
    expect(screen.getAllByRole("button").map((b) => b.textContent)).toEqual(["Use two"]);
  });
  it("names the site's practice, not that of one set", () => {
    const of = (set_tag: string, choice: string) =>
      ({ ...override, set_tag, override: { ...override.override, choice } }) as typeof override;
    const school = { id: "s", topic: "safety", title: "Who tries", options: { a: "one", b: "two" } };
    const row = { ...school, default: "a", why: "Both are held.", overrides: [of("C-1", "b")] };
    shown("/rules?topic=practice", { schools: [row] });
    expect(screen.getByText(/: one \(the default\)/)).toBeTruthy();
    cleanup();
    shown("/rules?topic=practice", { schools: [{ ...row, overrides: [of("C-1", "a"), of("", "b")] }] });
    expect(screen.getByText(/: two/)).toBeTruthy();
  });
  it("says why a site limit could not be taken away", async () => {
    catchWrites();
    writes.refuse = new ApiError(409, "gone", "Somebody removed it already.");
    shown("/rules", { role: "lead" });
    fireEvent.click(screen.getByRole("button", { name: "Remove site limit" }));
    expect((await screen.findByRole("alert")).textContent).toContain("Somebody removed it already.");
    expect(writes.sent[0]).toMatchObject({ method: "DELETE", path: "/api/v1/sites/1/overrides/9" });
  });
  it("keeps the reason for another practice as it is typed", () => {
    shown("/rules?topic=practice", { role: "lead" });
    const field = () => screen.getByRole<HTMLInputElement>("textbox", { name: "Reason for the change" });
    fireEvent.change(field(), { target: { value: "the maker wants it" } });
    cleanup();
    shown("/rules?topic=practice", { role: "lead" });
    expect(field().value).toBe("the maker wants it");
  });
  it("takes a topic that is none for the opening", () => {
    shown("/rules?topic=nothing");
    expect(rows()).toHaveLength(1);
  });
});
