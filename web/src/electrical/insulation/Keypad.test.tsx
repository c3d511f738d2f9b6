import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { MemoryRouter } from "react-router";
import { afterEach, describe, expect, it, vi } from "vitest";
import { Keypad } from "../../base";
import { marksAt } from "./marksAt";
import { RunningStrip } from "./RunningStrip";

let running: unknown[] = [];
const T = Date.parse("2026-03-02T09:00:00Z");
let seconds = 0;
vi.mock("../../base", async (real) => ({
  ...(await real<object>()),
  useGet: () => ({ data: running }),
  useSession: () => ({ me: { username: "tia" }, now: () => new Date(T + seconds * 1000) }),
}));
afterEach(cleanup);

describe("our own keypad", () => {
  const props = () => ({
    left: false,
    says: "good",
    units: [
      { code: "MOhm", symbol: "MΩ" },
      { code: "GOhm", symbol: "GΩ" },
    ],
    unit: "MOhm",
    last: "800",
    nextLabel: "next",
    onKey: vi.fn(),
    onUnit: vi.fn(),
    onSame: vi.fn(),
    onClear: vi.fn(),
    onNext: vi.fn(),
  });
  it("gives digits, bounds, over-range and the unit", () => {
    const p = props();
    render(<Keypad {...p} />);
    for (const key of ["7", ">", "OL", "±", "."]) fireEvent.click(screen.getByRole("button", { name: key }));
    fireEvent.click(screen.getByRole("button", { name: "backspace" }));
    expect(p.onKey.mock.calls.flat()).toEqual(["7", ">", "OL", "±", ".", "⌫"]);
    fireEvent.change(screen.getByLabelText("Unit"), { target: { value: "GOhm" } });
    expect(p.onUnit).toHaveBeenCalledWith("GOhm");
  });
  it("offers the last figure only where there is one, and turns for the left hand", () => {
    const { container } = render(<Keypad {...props()} last="" left />);
    expect(screen.getByRole("button", { name: "no last" })).toHaveProperty("disabled", true);
    expect(container.querySelector(".keypad.left")).not.toBeNull();
  });
});

describe("the strip on every page", () => {
  const clock = (more: object = {}) => ({
    name: "L1",
    started_at: new Date(T).toISOString(),
    ended_at: null,
    discharged_at: null,
    discharge_until: null,
    marks: marksAt(15, 30, 60),
    taken_s: [15],
    ...more,
  });
  const show = (more: object, at: number) => {
    seconds = at;
    running = [
      { sheet: "s", set_id: 7, tag: "MIST-92", bench: "insulation", by: "Jun", clocks: [clock(more)] },
    ];
    render(
      <MemoryRouter>
        <RunningStrip />
      </MemoryRouter>,
    );
  };
  it("shows a running test, its leg, whose it is, and leads to it", () => {
    show({}, 20);
    expect(screen.getByTestId("runstrip").textContent).toMatch(
      /MIST-92 insulation L1.*00:20.*next at 00:30.*Jun/,
    );
    expect(screen.getByRole("link").getAttribute("href")).toBe("/sets/7/insulation");
  });
  it("says when to read", () => {
    show({}, 31);
    expect(screen.getByText("read now")).toBeTruthy();
  });
  it("counts the discharge down and does not let it be forgotten", () => {
    show(
      { ended_at: new Date(T + 60_000).toISOString(), discharge_until: new Date(T + 300_000).toISOString() },
      100,
    );
    expect(screen.getByTestId("runstrip").textContent).toContain("03:20 to go: keep leads grounded");
    cleanup();
    show(
      { ended_at: new Date(T + 60_000).toISOString(), discharge_until: new Date(T + 300_000).toISOString() },
      400,
    );
    expect(screen.getByTestId("runstrip").textContent).toContain("discharge time over");
  });
  it("is gone when the leads are off", () => {
    show({ discharged_at: new Date(T).toISOString() }, 100);
    expect(screen.queryByTestId("runstrip")).toBeNull();
  });
});
