import { cleanup, render, screen, waitFor } from "@testing-library/react";
import { MemoryRouter } from "react-router";
import { afterEach, describe, expect, it, vi } from "vitest";
import type { ReactElement } from "react";
import { benchesOf, benchPath, Fetched, fetchLater, type BenchOut, type Later } from "./base";
import { benchDef, BENCHES } from "./benches";

afterEach(cleanup);
const within = (page: ReactElement) => render(<MemoryRouter>{page}</MemoryRouter>);
const Page = ({ word }: { word: string }) => <p>the page says {word}</p>;

describe("the benches of the rooms", () => {
  it("are found by the folder they stand in, each once", () => {
    const names = BENCHES.map((b) => b.bench);
    expect(names.toSorted()).toEqual([
      "alignment",
      "bearing",
      "bolts",
      "circuit",
      "control",
      "direction",
      "drawdown",
      "drive_sheet",
      "duty",
      "fill",
      "fits",
      "fuses",
      "insulation",
      "job",
      "joints",
      "leads",
      "lifting",
      "loop",
      "make_safe",
      "ohms",
      "protection",
      "rings",
      "rotor",
      "running_check",
      "seal",
      "shaft",
      "suction",
      "throttle",
      "vacuum",
      "vibration",
      "wear",
      "which",
    ]);
    expect(benchDef("alignment")?.recorded).toBeTypeOf("function");
    expect(benchDef("nothing")).toBeUndefined();
  });
  it("are reached by their names, and only on a set that can have them", () => {
    expect(benchPath(7, "running_check")).toBe("/sets/7/running-check");
    const all = [
      { name: "a", slot: "" },
      { name: "b", slot: "coupling" },
    ] as BenchOut[];
    expect(benchesOf(all, { slots: ["motor"] }).map((b) => b.name)).toEqual(["a"]);
    expect(benchesOf(all, { slots: ["motor", "coupling"] }).map((b) => b.name)).toEqual(["a", "b"]);
    expect(benchesOf(undefined, { slots: [] })).toEqual([]);
    const driven = [{ ...all[0], kinds: ["drive"] } as BenchOut];
    expect(benchesOf(driven, { slots: [], components: [{ kind: "starter" }] })).toEqual([]);
    expect(benchesOf(driven, { slots: [], components: [{ kind: "drive" }] })).toHaveLength(1);
    const lifted = [{ ...all[0], sets: ["submersible"] } as BenchOut];
    expect(benchesOf(lifted, { kind: "base_mounted", slots: [] })).toEqual([]);
    expect(benchesOf(lifted, { kind: "submersible", slots: [] })).toHaveLength(1);
  });
});

describe("what is fetched when it is wanted", () => {
  it("waits, and shows what came with what it was given", async () => {
    const load: Later<{ word: string }> = async () => Page;
    within(<Fetched load={load} with={{ word: "so" }} />);
    expect(screen.getByRole("status")).toBeTruthy();
    await screen.findByText("the page says so");
  });
  it("says when it could not be had, and has it once there is a signal", async () => {
    const load = vi.fn<Later<{ word: string }>>().mockRejectedValueOnce(new Error("no signal"));
    load.mockResolvedValue(Page);
    within(<Fetched load={load} with={{ word: "again" }} />);
    await screen.findByText(/could not be fetched/);
    window.dispatchEvent(new Event("online"));
    await screen.findByText("the page says again");
    expect(load).toHaveBeenCalledTimes(2);
  });
  it("is there at once when it was fetched before", async () => {
    const load = vi.fn<Later<{ word: string }>>().mockResolvedValue(Page);
    await fetchLater(load);
    within(<Fetched load={load} with={{ word: "at once" }} />);
    expect(screen.getByText("the page says at once")).toBeTruthy();
    expect(load).toHaveBeenCalledTimes(1);
  });
  it("says nothing of a strip that cannot be had", async () => {
    const load = vi.fn<Later>().mockRejectedValue(new Error("no signal"));
    const { container } = within(<Fetched load={load} with={{}} quiet />);
    await waitFor(() => expect(load).toHaveBeenCalled());
    expect(container.textContent).toBe("");
  });
});
