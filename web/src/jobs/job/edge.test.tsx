import { cleanup, fireEvent, render, screen, within } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import { Edge } from "./Edge";
import type { Job, View } from "./useJob";

vi.mock("../../base", async (real) => ({ ...(await real<object>()), useMe: () => ({ locale: "en-GB" }) }));
afterEach(cleanup);

const change = (key: string, title: string, place: string) => ({
  ...{ key, title, place, by: "Leo", since: "2026-03-02T09:00:00Z" },
});
function shown(view: object = {}, typed: Record<string, string> = {}, writes = true) {
  const said: unknown[] = [];
  const job = {
    ...{ tools: { writes }, typed, view: { now: "undo" } },
    ...{ say: (body: unknown) => said.push(body), put: vi.fn(), forget: vi.fn() },
  };
  const whole = { leads: [], reconnect: [], changes: [], others: [], ...view };
  render(<Edge job={job as unknown as Job} view={whole as unknown as View} />);
  return { said, job };
}
const button = (name: string) => screen.getByRole<HTMLButtonElement>("button", { name, hidden: true });

describe("what has to be as it was", () => {
  it("counts what is off still, and says of each how and by whom", () => {
    shown({
      leads: [{ what: "U1", how: "to T1", by: "Leo", back: false }],
      reconnect: [{ what: "Coupling guard", how: "", by: "", back: true }],
    });
    expect(screen.getByRole("heading", { name: "Reconnect 1" })).toBeTruthy();
    const rows = screen.getAllByRole("listitem").filter((r) => r.dataset.what);
    expect(rows.map((r) => [r.dataset.what, r.dataset.back])).toEqual([
      ["U1", "false"],
      ["Coupling guard", "true"],
    ]);
    expect(rows[0]?.textContent).toContain("to T1, Leo");
  });
  it("says that nothing was taken off yet, and lets a job without changes close", () => {
    shown();
    expect(screen.getByText(/the list writes itself/)).toBeTruthy();
    expect(screen.queryByText(/cannot close/)).toBeNull();
  });
  it("keeps the job open while a change stands; what a step made is ended by its step", () => {
    const { said } = shown({
      changes: [change("hand/1", "Lifted wire", "X1:4"), change("step/2", "Valve shut", "suction")],
    });
    expect(screen.getByText("The job cannot close while one is on.")).toBeTruthy();
    const restored = screen.getAllByRole("button", { name: "Restored" });
    expect(restored).toHaveLength(1);
    fireEvent.click(restored[0] as Element);
    expect(said).toEqual([{ kind: "change", change: "lifted_wire", place: "X1:4", on: false }]);
  });
  it("adds a change once what and where are there, and lays both down", () => {
    const { job } = shown({}, { "change:kind": "jumper" });
    expect(button("Add").disabled).toBe(true);
    expect(screen.getByText("Enter where.")).toBeTruthy();
    cleanup();
    const whole = shown({}, { "change:kind": "jumper", "change:place": " K1 13-14 " });
    fireEvent.click(button("Add"));
    expect(whole.said).toEqual([{ kind: "change", change: "jumper", place: "K1 13-14", on: true }]);
    expect(whole.job.forget).toHaveBeenCalledWith("change:kind", "change:place");
    expect(job.forget).not.toHaveBeenCalled();
  });
  it("writes down as found at the step that is now; as left needs no more than what", () => {
    const { said } = shown({}, { "found:what": "Dip switch 3" });
    expect(button("As found").disabled).toBe(true);
    fireEvent.click(button("As left"));
    expect(said).toEqual([{ kind: "left", step: "undo", what: "Dip switch 3", how: "" }]);
    cleanup();
    const whole = shown({}, { "found:what": "Dip switch 3", "found:how": "on" });
    fireEvent.click(button("As found"));
    expect(whole.said).toEqual([{ kind: "found", step: "undo", what: "Dip switch 3", how: "on" }]);
  });
  it("offers nothing to who may only look", () => {
    shown({ changes: [change("hand/1", "Lifted wire", "X1:4")] }, {}, false);
    expect(screen.queryAllByRole("button", { hidden: true })).toEqual([]);
    const list = within(screen.getByRole("complementary", { name: "Put back" }));
    expect(list.getByText("Lifted wire")).toBeTruthy();
  });
});
