import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, fireEvent, render, screen, waitFor, within } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { ApiError, outbox, type Schemas } from "../base";
import { Kits } from "./Kits";

vi.mock("../base/session", async (real) => ({
  ...(await real<typeof import("../base/session")>()),
  useMe: () => ({ username: "ada", locale: "en-GB", units: {} }),
}));
vi.mock("../base/queries", async (real) => ({
  ...(await real<typeof import("../base/queries")>()),
  useGet: () => ({ data: { procedures: [{ id: "J05", title: "Mechanical seal" }] } }),
}));
vi.mock("../logbook", () => ({
  usePlant: () => ({ data: { services: [{ sets: [{ id: 7, tag: "A-1" }] }] } }),
}));
beforeEach(() => localStorage.clear());
afterEach(() => {
  cleanup();
  vi.restoreAllMocks();
});

const KIT = {
  id: 3,
  title: "Seal of A-1",
  procedure: "J05",
  set_id: 7,
  tag: "A-1",
  kind: "",
  version: 4,
  whole: 0,
  verdict: "act",
  says: "Short for one: 1 × S-16.",
  parts: [
    { code: "S-16", title: "Seal set", wanted: 1, free: 0, short: 1 },
    { code: "R-16", title: "Casing ring", wanted: 2, free: 5, short: 0 },
    { code: "N-1", title: "Nut", wanted: 1, free: null, short: 0 },
  ],
} as Schemas["SiteKit"];
const PARTS = [
  { id: 1, code: "S-16", title: "Seal set" },
  { id: 2, code: "R-16", title: "Casing ring" },
] as Schemas["SpareOut"][];
const show = (kits: Schemas["SiteKit"][], may = true, parts = PARTS) =>
  render(
    <QueryClientProvider client={new QueryClient()}>
      <Kits kits={kits} parts={parts} site={1} may={may} />
    </QueryClientProvider>,
  );
const press = (name: string) => fireEvent.click(screen.getByRole("button", { name, hidden: true }));

describe("a kit", () => {
  it("is a tray whose compartments say what is short, free or was never counted", () => {
    show([KIT]);
    const tray = screen.getByRole("list", { name: "Seal of A-1, parts" });
    const cells = within(tray).getAllByRole("listitem");
    expect(cells.map((c) => c.textContent)).toEqual([
      "1 × S-16Seal set1 short",
      "2 × R-16Casing ring5 free",
      "1 × N-1Nutnever counted",
    ]);
    expect(cells.map((c) => c.dataset.short)).toEqual(["1", undefined, undefined]);
    expect(screen.getByText("Short for one: 1 × S-16.")).toBeTruthy();
  });
  it.each([
    ["A-1", "", "A-1"],
    ["", "wet_rotor", "wet rotor"],
    ["", "", "any set"],
  ])("says whose it is: %s %s", (tag, kind, words) => {
    show([{ ...KIT, tag, kind }]);
    expect(document.body.textContent).toContain(`J05, ${words}`);
  });
  it("is changed as a whole, against the version that was seen", async () => {
    const write = vi.spyOn(outbox, "write").mockResolvedValue({} as never);
    show([KIT]);
    press("N-1 out of the kit");
    press("Save kit");
    await waitFor(() => expect(write).toHaveBeenCalledOnce());
    expect(write.mock.calls[0]?.slice(0, 3)).toEqual([
      "PUT",
      "/api/v1/kits/3",
      {
        expected_version: 4,
        title: "Seal of A-1",
        lines: [
          { code: "S-16", wanted: 1 },
          { code: "R-16", wanted: 2 },
        ],
      },
    ]);
  });
  it("keeps what was changed when somebody else was first, and says so", async () => {
    vi.spyOn(outbox, "write").mockRejectedValue(new ApiError(409, "stale", "Changed by someone else."));
    show([{ ...KIT, id: 4 }]);
    press("N-1 out of the kit");
    press("Save kit");
    expect(await screen.findByText("Changed by someone else.")).toBeTruthy();
    expect(screen.queryByRole("button", { name: "N-1 out of the kit", hidden: true })).toBeNull();
  });
  it("without a part is none", () => {
    show([{ ...KIT, id: 5 }]);
    for (const code of ["S-16", "R-16", "N-1"]) press(`${code} out of the kit`);
    expect(screen.getByRole<HTMLButtonElement>("button", { name: "Save kit", hidden: true }).disabled).toBe(
      true,
    );
    expect(screen.getByText("A kit has at least one part.")).toBeTruthy();
  });
  it("is taken apart by its own button", async () => {
    const write = vi.spyOn(outbox, "write").mockResolvedValue({} as never);
    show([KIT]);
    press("Take kit apart");
    await waitFor(() => expect(write).toHaveBeenCalledOnce());
    expect(write.mock.calls[0]?.slice(0, 2)).toEqual(["DELETE", "/api/v1/kits/3"]);
  });
  it("is not changed by who may only look", () => {
    show([KIT], false);
    expect(screen.queryByText("Change kit")).toBeNull();
    expect(screen.queryByRole("button", { name: "New kit" })).toBeNull();
  });
});
describe("a new kit", () => {
  it("is not begun while the stores are empty", () => {
    show([], true, []);
    expect(screen.getByText(/No kit yet/)).toBeTruthy();
    expect(screen.queryByRole("button", { name: "New kit" })).toBeNull();
  });
  it("wants a name, a job and a part, in their turn", () => {
    show([]);
    press("New kit");
    const why = () => screen.getByRole("button", { name: "Save new kit" }).parentElement?.textContent;
    expect(why()).toContain("Enter its name.");
    fireEvent.change(screen.getByLabelText("Kit"), { target: { value: "Seal" } });
    expect(why()).toContain("Choose the job.");
    fireEvent.change(screen.getByLabelText("Job"), { target: { value: "J05" } });
    expect(why()).toContain("Add a part.");
  });
  it("is sent with its lines, one for each part", async () => {
    const write = vi.spyOn(outbox, "write").mockResolvedValue({ ok: true } as never);
    show([]);
    press("New kit");
    fireEvent.change(screen.getByLabelText("Kit"), { target: { value: " Seal " } });
    fireEvent.change(screen.getByLabelText("Job"), { target: { value: "J05" } });
    fireEvent.change(screen.getByLabelText("Of set"), { target: { value: "7" } });
    for (const n of ["1", "3"]) {
      fireEvent.change(screen.getByLabelText("Part of the kit"), { target: { value: "S-16" } });
      fireEvent.change(screen.getByLabelText("How many in it"), { target: { value: n } });
      press("Add line");
    }
    press("Save new kit");
    await waitFor(() => expect(write).toHaveBeenCalledOnce());
    expect(write.mock.calls[0]?.[2]).toEqual({
      title: "Seal",
      procedure: "J05",
      set_id: 7,
      kind: "",
      lines: [{ code: "S-16", wanted: 3 }],
    });
    expect(await screen.findByRole("button", { name: "New kit" })).toBeTruthy();
  });
  it.each(["0", "", "1.5", "-2", "1000"])("takes no count of %s", (n) => {
    show([]);
    press("New kit");
    fireEvent.change(screen.getByLabelText("Part of the kit"), { target: { value: "S-16" } });
    fireEvent.change(screen.getByLabelText("How many in it"), { target: { value: n } });
    expect(screen.getByRole<HTMLButtonElement>("button", { name: "Add line" }).disabled).toBe(true);
  });
});
