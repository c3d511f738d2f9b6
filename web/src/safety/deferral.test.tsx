import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, fireEvent, render, screen, waitFor } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { ApiError } from "../base";
import { catchWrites, writes } from "../base/test-writes";
import type { SetOut } from "../plant";
import { DeferralForm } from "./DeferralForm";

vi.mock("../base/session", async (real) => ({
  ...(await real<object>()),
  useMe: () => ({ username: "ada", locale: "en-GB", units: {} }),
  useSession: () => ({ now: () => new Date("2026-03-02T09:00:00Z") }),
}));
vi.mock("../base/queries", async (real) => ({
  ...(await real<object>()),
  useSymbols: () => ({ A: "A", mA: "mA", bar: "bar" }),
}));
vi.mock("../plant", () => ({
  useKinds: () => ({
    data: {
      parts: [
        { id: "motor", title: "Motor" },
        { id: "pump", title: "Pump" },
        { id: "drive", title: "Drive" },
      ],
    },
  }),
  useSites: () => ({ data: [{ id: 1, time_zone: "Europe/Lisbon" }] }),
}));
vi.mock("./queries", () => ({
  useSafetyWords: () => ({
    data: {
      figures: [
        { id: "current", title: "Current", units: ["A", "mA"], legs: true },
        { id: "pressure", title: "Discharge pressure", units: ["bar"], legs: false },
      ],
    },
  }),
}));
const { sent } = writes;
beforeEach(catchWrites);
afterEach(() => {
  cleanup();
  vi.restoreAllMocks();
});

const SET = { id: 7, tag: "C-1", site_id: 1, slots: ["motor", "pump"] } as unknown as SetOut;
function open(id = 7) {
  render(
    <QueryClientProvider client={new QueryClient()}>
      <DeferralForm set={{ ...SET, id }} />
    </QueryClientProvider>,
  );
  fireEvent.click(screen.getByRole("button", { name: "Defer a repair" }));
}
const type = (label: string, value: string) =>
  fireEvent.change(screen.getByLabelText(label), { target: { value } });
const defer = async () => {
  fireEvent.click(screen.getByRole("button", { name: "Defer repair" }));
  await waitFor(() => expect(sent.length).toBeGreaterThan(0));
};

describe("a repair put off", () => {
  it("is for a week, on a part that this set has", () => {
    open(1);
    const until = screen.getByLabelText<HTMLInputElement>("Until (Europe/Lisbon)");
    expect(until.value).toBe("2026-03-09T09:00");
    const parts = [...screen.getByLabelText<HTMLSelectElement>("Part").options].map((o) => o.text);
    expect(parts).toEqual(["motor", "pump"]);
  });
  it("names the moment by the site's clock, and each limit with its unit", async () => {
    open(2);
    type("Repair to defer", "bearing noise");
    type("Why", "no spare until Friday");
    type("Until (Europe/Lisbon)", "2026-07-01T12:00");
    type("Limit", "31");
    fireEvent.click(screen.getByRole("button", { name: "Add limit" }));
    fireEvent.change(screen.getAllByLabelText("Figure")[1] as Element, { target: { value: "pressure" } });
    fireEvent.change(screen.getAllByLabelText("Side")[1] as Element, { target: { value: "below" } });
    fireEvent.change(screen.getAllByLabelText("Limit")[1] as Element, { target: { value: "1.8" } });
    await defer();
    const [one] = sent;
    expect(one?.method).toBe("POST");
    expect(one?.path).toMatch(/^\/api\/v1\/sets\/2\/deferrals\/[0-9a-f-]{36}$/);
    expect(one?.label).toBe("C-1, repair deferred");
    expect(one?.body).toMatchObject({
      ...{ part: "motor", what: "bearing noise", reason: "no spare until Friday" },
      until: "2026-07-01T11:00:00.000Z",
      limits: [
        { measurand: "current", leg: "1", floor: false, value: { text: "31", unit: "A" } },
        { measurand: "pressure", leg: "", floor: true, value: { text: "1.8", unit: "bar" } },
      ],
    });
    await waitFor(() => expect(screen.getByRole("button", { name: "Defer a repair" })).toBeTruthy());
  });
  it("sends no limit that has no figure, and asks no leg of a pressure", async () => {
    open(3);
    type("Figure", "pressure");
    expect(screen.queryByLabelText("Leg")).toBeNull();
    type("Repair to defer", "drips");
    await defer();
    expect(sent[0]?.body.limits).toEqual([]);
  });
  it("stays open with what was typed when it is refused, in the server's words", async () => {
    writes.refuse = new ApiError(400, "reason_missing", "Enter why it is put off.");
    open(4);
    type("Repair to defer", "bearing noise");
    await defer();
    expect((await screen.findByRole("alert")).textContent).toContain("Enter why it is put off.");
    expect(screen.getByLabelText<HTMLInputElement>("Repair to defer").value).toBe("bearing noise");
    const first = sent[0]?.path;
    writes.refuse = null;
    type("Why", "no spare");
    fireEvent.click(screen.getByRole("button", { name: "Defer repair" }));
    await waitFor(() => expect(sent).toHaveLength(2));
    // The same deferral as before: an answer that was lost makes no second one.
    expect(sent[1]?.path).toBe(first);
  });
  it("is there again after it was left", () => {
    open(5);
    type("Repair to defer", "half a word");
    fireEvent.click(screen.getByRole("button", { name: "Cancel" }));
    cleanup();
    open(5);
    expect(screen.getByLabelText<HTMLInputElement>("Repair to defer").value).toBe("half a word");
  });
});
