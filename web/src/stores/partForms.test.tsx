import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, fireEvent, render, screen, waitFor } from "@testing-library/react";
import type { ReactElement } from "react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { type Schemas } from "../base";
import { catchWrites, writes } from "../base/test-writes";
import { Figures, NewPart } from "./PartForms";

vi.mock("../base/session", async (real) => ({
  ...(await real<object>()),
  useMe: () => ({ username: "ada", locale: "en-GB", units: {} }),
}));
const { sent } = writes;
beforeEach(catchWrites);
afterEach(() => {
  cleanup();
  vi.restoreAllMocks();
});

const SEAL = {
  ...{ id: 3, code: "S-16", title: "Seal set", version: 5, lines: ["seal", "o_ring"], fits: ["C-1"] },
  ...{ per_year: 1.5, lead_days: null, price: 80, day_cost: null, least: 1, most: 2, least_set: false },
} as unknown as Schemas["SpareOut"];
const show = (form: ReactElement) =>
  render(<QueryClientProvider client={new QueryClient()}>{form}</QueryClientProvider>);
const type = (label: string, value: string) =>
  fireEvent.change(screen.getByLabelText(label), { target: { value } });
const value = (label: string) => screen.getByLabelText<HTMLInputElement>(label).value;
const save = () => screen.getByRole<HTMLButtonElement>("button", { name: "Save figures" });

describe("the figures of a spare", () => {
  it("shows what the site said, and not what was reckoned for it", () => {
    show(<Figures part={SEAL} />);
    expect([value("Used a year"), value("Lead time, measured, days")]).toEqual(["1.5", ""]);
    expect([value("Least, set by the site"), value("Most, set by the site")]).toEqual(["", ""]);
    cleanup();
    show(<Figures part={{ ...SEAL, version: 6, least_set: true }} />);
    expect([value("Least, set by the site"), value("Most, set by the site")]).toEqual(["1", "2"]);
  });
  it("are sent as numbers under the version they were read at; a blank takes one away", async () => {
    show(<Figures part={{ ...SEAL, id: 4 }} />);
    type("Lead time, measured, days", "12,5");
    type("Price", " ");
    type("Fills kit lines, by comma", "seal, o ring , ");
    fireEvent.click(save());
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]).toEqual({
      ...{ method: "PUT", path: "/api/v1/parts/4/figures", label: "S-16, figures", id: "" },
      body: {
        ...{ expected_version: 5, title: "Seal set", lines: ["seal", "o_ring"], fits: ["C-1"] },
        ...{ per_year: 1.5, lead_days: 12.5, price: null, day_cost: null, least: null, most: null },
      },
    });
  });
  it.each(["a few", "1e999", "Infinity", "1.2.3"])("wait for a figure in place of “%s”", (text) => {
    show(<Figures part={{ ...SEAL, id: 5 }} />);
    type("Used a year", text);
    expect(save().disabled).toBe(true);
    expect(screen.getByText("Used a year: a figure, or nothing.")).toBeTruthy();
    type("Used a year", "");
    expect(save().disabled).toBe(false);
    type("Used a year", "1.5");
  });
});

describe("a new spare", () => {
  it("waits for its code and its name, and is sent without the blanks around them", async () => {
    show(<NewPart site={8} />);
    const add = screen.getByRole<HTMLButtonElement>("button", { name: "Add part" });
    type("Code", " G-2 ");
    expect(add.disabled).toBe(true);
    type("Part", " Casing gasket ");
    expect(add.disabled).toBe(false);
    fireEvent.click(add);
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]).toMatchObject({
      ...{ method: "POST", path: "/api/v1/sites/8/parts" },
      body: { code: "G-2", title: "Casing gasket", lines: [], fits: [] },
    });
  });
});
