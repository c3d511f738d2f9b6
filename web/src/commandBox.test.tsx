import { act, cleanup, fireEvent, render, screen } from "@testing-library/react";
import { MemoryRouter, useLocation } from "react-router";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { CommandBox } from "./CommandBox";

const set = (id: number, tag: string, name: string, more: object = {}) => ({
  ...{ id, tag, name, place: "", nickname: "", verdict: "good", ...more },
});
const SETS = [
  set(1, "KELP-21", "Kelp skimmer feed"),
  set(2, "KELP-22", "Kelp skimmer feed", { nickname: "the loud one" }),
  set(3, "COLD-33", "Chilled water", { place: "Chiller room" }),
];
let may = "technician";
let asked: Record<string, unknown>[] = [];
let hits: object[] = [];
const BENCHES = [{ name: "running_check", offer: "Running check", sets: [], slot: "", kinds: [] }];
vi.mock("./base", async (real) => ({
  ...(await real<object>()),
  useMe: () => ({ locale: "en-GB" }),
  useQuiet: () => undefined,
  useBenches: () => ({ data: BENCHES }),
  benchesOf: (benches: unknown) => benches,
  useGet: (path: string, params: Record<string, unknown> | null) => {
    if (path.endsWith("/found") && params) asked.push(params);
    if (path.endsWith("/found")) return { data: params ? hits : undefined };
    return { data: params ? { id: params.set_id, tag: "KELP-21", may } : undefined };
  },
}));
vi.mock("./logbook", () => ({ usePlant: () => ({ data: { services: [{ sets: SETS }] } }) }));
vi.mock("./plant", async (real) => ({
  findSets: (await real<{ findSets: unknown }>()).findSets,
  useSites: () => ({ data: [{ id: 4 }] }),
  chosenSite: (list: unknown[]) => list[0],
}));
beforeEach(() => {
  vi.useFakeTimers();
  asked = [];
  hits = [];
  may = "technician";
});
afterEach(() => {
  cleanup();
  vi.useRealTimers();
});

let at = "";
function Where() {
  const { pathname } = useLocation();
  at = pathname;
  return null;
}
function shown(setId: number | null = null) {
  const close = vi.fn();
  render(
    <MemoryRouter initialEntries={["/start"]}>
      <CommandBox show close={close} setId={setId} />
      <Where />
    </MemoryRouter>,
  );
  const field = screen.getByRole("combobox");
  const type = (value: string) => fireEvent.change(field, { target: { value } });
  return { close, field, type };
}
const rows = () => screen.queryAllByRole("option").map((r) => r.textContent);
const rest = () => act(() => vi.advanceTimersByTime(260));

describe("the finder", () => {
  it("offers nothing before something is typed, and says so where nothing goes by it", () => {
    const { type } = shown();
    expect(rows()).toEqual([]);
    type("q");
    expect(screen.queryByText("No match.")).toBeNull();
    type("qqq");
    expect(screen.getByText("No match.")).toBeTruthy();
  });
  it("finds a set by tag, nickname or place, and opens the first by Enter", () => {
    const { type, field, close } = shown();
    type("loud");
    expect(rows()).toEqual([expect.stringContaining("KELP-22")]);
    type("chiller");
    expect(rows()[0]).toContain("COLD-33");
    fireEvent.keyDown(field, { key: "Enter" });
    expect(at).toBe("/sets/3");
    expect(close).toHaveBeenCalledOnce();
  });
  it("goes down by the arrow key", () => {
    const { type, field } = shown();
    type("kelp");
    expect(rows()).toHaveLength(2);
    fireEvent.keyDown(field, { key: "ArrowDown" });
    fireEvent.keyDown(field, { key: "Enter" });
    expect(at).toBe("/sets/2");
  });
  it("opens a page by the beginning of its name", () => {
    const { type, field } = shown();
    type("hand");
    type("shift");
    expect(rows()).toEqual(["Shift handover"]);
    fireEvent.keyDown(field, { key: "Enter" });
    expect(at).toBe("/hand-over");
  });
  it("asks the server once the hand rests, and not for less than three letters", () => {
    const { type } = shown();
    type("be");
    rest();
    type("bea");
    type("bearing");
    expect(asked).toEqual([]);
    rest();
    expect(asked.at(-1)).toEqual({ site_id: 4, words: "bearing" });
    expect(asked.every((a) => a.words === "bearing")).toBe(true);
  });
  it("names what else was found, of which set and when, and never an answer to older words", () => {
    hits = [
      {
        ...{ kind: "event", tag: "COLD-33", title: "Bearing renewed", at: "2026-03-02T09:00:00Z" },
        ...{ says: "noise gone", to: "/sets/3" },
      },
    ];
    const { type } = shown();
    type("bearing");
    rest();
    expect(rows()[0]).toBe("Repair or event COLD-33 Bearing renewed 2 Mar 2026 noise gone");
    type("bearings");
    expect(rows()).toEqual([]);
  });
  it("offers what can be begun on the set that is looked at, but not to who may only look", () => {
    const { type, field } = shown(1);
    type("runn");
    expect(rows()).toEqual(["Running check, KELP-21"]);
    fireEvent.keyDown(field, { key: "Enter" });
    expect(at).toBe("/sets/1/running-check");
    cleanup();
    may = "viewer";
    shown(1).type("runn");
    expect(rows()).toEqual([]);
  });
});
