import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, fireEvent, render, screen, waitFor } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import api from "../../../../docs/openapi.json";
import { ApiError, type Schemas } from "../../base";
import { catchWrites, writes } from "../../base/test-writes";
import { LoopForm } from "./LoopForm";

vi.mock("../../base/session", async (real) => ({
  ...(await real<object>()),
  useMe: () => ({ username: "ada", locale: "en-GB", units: { pressure: "kPa" } }),
}));
vi.mock("../../base/queries", async (real) => ({
  ...(await real<object>()),
  useSymbols: () => ({ l: "l", m3: "m³", bar: "bar", kPa: "kPa" }),
  useSchema: () => ({ data: api.components.schemas.LoopPlate, error: null, refetch: vi.fn() }),
}));
vi.mock("../../plant", () => ({
  useRegister: () => ({
    data: {
      sets: [
        { id: 41, tag: "P-41" },
        { id: 42, tag: "P-42" },
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

const LOOP = {
  ...{ id: 6, name: "Palm house", version: 3, set_ids: [41] },
  plate: { volume: { text: "620", unit: "l" }, fluid: "water", note: "" },
} as unknown as Schemas["LoopOut"];
function open(site: number, loop: Schemas["LoopOut"] | null = null) {
  const done = vi.fn();
  render(
    <QueryClientProvider client={new QueryClient()}>
      <LoopForm site={site} loop={loop} done={done} />
    </QueryClientProvider>,
  );
  return done;
}
const type = (label: string, value: string) =>
  fireEvent.change(screen.getByLabelText(label), { target: { value } });
const save = () => fireEvent.click(screen.getByRole("button", { name: "Save loop" }));

describe("a loop described", () => {
  it("is new: its figures, its liquid and the sets on it, and nothing that was not entered", async () => {
    const done = open(1);
    type("Name", "North risers");
    type("Precharge of the vessel", "120");
    type("Liquid", "propylene");
    fireEvent.click(screen.getByLabelText("P-42"));
    save();
    await waitFor(() => expect(done).toHaveBeenCalledOnce());
    expect(sent).toEqual([
      {
        ...{ method: "POST", path: "/api/v1/sites/1/loops", label: "a loop", id: "" },
        body: {
          ...{ name: "North risers", set_ids: [42], expected_version: 0 },
          plate: { note: "", precharge: { text: "120", unit: "kPa" }, fluid: "propylene" },
        },
      },
    ]);
  });
  it("is changed as it is known, under its version; what is taken back is not sent", async () => {
    open(2, LOOP);
    expect(screen.getByLabelText<HTMLInputElement>("P-41").checked).toBe(true);
    type("Liquid", "");
    fireEvent.click(screen.getByLabelText("P-41"));
    save();
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]).toMatchObject({
      ...{ method: "PUT", path: "/api/v1/sites/2/loops/6" },
      body: { expected_version: 3, set_ids: [], plate: { volume: { text: "620", unit: "l" } } },
    });
    expect(sent[0]?.body.plate).not.toHaveProperty("fluid");
  });
  it("says at the field what is wrong with it, and loses nothing", async () => {
    const words = "The vessel is larger than the whole loop.";
    const problem = { code: "loop_wrong", field: "volume", value: "3", message: words, right: "" };
    writes.refuse = new ApiError(400, "loop_wrong", "The loop cannot be so.", [problem]);
    const done = open(3, LOOP);
    type("Water in the loop", "3");
    save();
    await screen.findAllByText(new RegExp(words));
    const field = screen.getByLabelText<HTMLInputElement>("Water in the loop");
    expect(field.closest(".field")?.textContent).toContain(words);
    expect(field.value).toBe("3");
    expect(done).not.toHaveBeenCalled();
  });
});
