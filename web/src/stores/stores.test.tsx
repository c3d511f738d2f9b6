import { cleanup, fireEvent, render, screen, waitFor } from "@testing-library/react";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { afterEach, describe, expect, it, vi } from "vitest";
import { outbox } from "../base";
import { Box } from "./VansPage";
import { pile, type Van } from "./logic";

afterEach(cleanup);
const lot = (tenths: number, count: number, verdict = "good", says = "") => ({
  tenths,
  count,
  least: 4,
  verdict,
  says,
  size: {
    value: tenths / 10000,
    unit: "mm",
    bound: "exact",
    shown: `${tenths / 10000} mm`,
    figure: String(tenths / 10000),
    symbol: "mm",
  },
  typed: { text: (tenths / 10000).toString(), unit: "mm" },
});
const VAN = {
  id: 7,
  name: "Van 2",
  lots: [lot(2500, 3, "watch", "3 left, 4 wanted: buy."), lot(10000, 0)],
  moves: [{ at: "2026-03-02T08:00:00Z", size: "0.25 mm", change: -2, why: "A-1, alignment", by: "Ada" }],
} as unknown as Van;
vi.mock("../base/session", async (real) => ({
  ...(await real<typeof import("../base/session")>()),
  useMe: () => ({ username: "ada", locale: "en-GB", units: {} }),
}));
vi.mock("../base/queries", async (real) => ({
  ...(await real<typeof import("../base/queries")>()),
  useSymbols: () => ({ mm: "mm", mil: "mil" }),
}));
const show = (may: boolean) =>
  render(
    <QueryClientProvider client={new QueryClient()}>
      <Box van={VAN} may={may} units={["mm", "mil"]} zone="UTC" />
    </QueryClientProvider>,
  );

describe("a van", () => {
  it("draws as many sheets as there are, and no more than fit", () => {
    expect(pile({ tenths: 500, count: 3 }).sheets).toBe(3);
    const many = pile({ tenths: 20000, count: 40 });
    expect(many.sheets * (many.thick + 1)).toBeLessThanOrEqual(72);
    expect(pile({ tenths: 500, count: -2 }).sheets).toBe(0);
  });
  it("sends the measured size as it is kept when one more or less is counted, and says what runs low", async () => {
    const write = vi.spyOn(outbox, "write").mockResolvedValue(undefined as never);
    show(true);
    expect(screen.getByText(/3 left, 4 wanted/)).toBeTruthy();
    fireEvent.click(screen.getByRole("button", { name: "remove one 0.25 mm" }));
    await waitFor(() => expect(write).toHaveBeenCalled());
    expect(write.mock.calls[0]?.slice(0, 3)).toEqual([
      "PUT",
      "/api/v1/vans/7/shims",
      { size: { text: "0.25", unit: "mm" }, count: 2 },
    ]);
    expect(screen.queryByRole("button", { name: "remove one 1 mm" })).toBeNull();
    expect(screen.getByText("Enter the thickness first.")).toBeTruthy();
  });
  it("lets a viewer look and count nothing", () => {
    show(false);
    expect(screen.queryByRole("button", { name: "Count it in" })).toBeNull();
    expect(screen.queryByRole("button", { name: "add one 0.25 mm" })).toBeNull();
    expect(screen.getByText(/A-1, alignment/)).toBeTruthy();
  });
});
