import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import { Closing } from "./Closing";
import { Pair } from "./Pair";
import { Rail } from "./Rail";
import { StepNow } from "./StepNow";
import type { Job, Step, View } from "./useJob";

vi.mock("../../base", async (real) => ({
  ...(await real<object>()),
  useMe: () => ({ username: "ada", locale: "en-GB", units: {} }),
  useNarrow: () => false,
  useBenches: () => ({ data: [{ name: "bolts", offer: "Tighten bolts" }] }),
}));
vi.mock("../../safety", () => ({
  NamedFigure: ({ name }: { name: string }) => <span>figure {name}</span>,
  PutOnRecord: () => <button type="button">Save record</button>,
  Verdicts: () => null,
}));
vi.mock("../../logbook", () => ({ AddPicture: () => null }));
vi.mock("../Strokes", () => ({ Draw: () => null }));
afterEach(cleanup);

const step = (id: string, n: number, more: Partial<Step> = {}): Step =>
  ({
    id,
    n,
    title: `title of ${id}`,
    do: `do ${id}`,
    why: "why",
    mistake: "",
    caution: "",
    record: "",
    found: "",
    way: "",
    state: "open",
    hold: "",
    second: false,
    opens: "",
    proves: "",
    shop: "",
    twin_asked: false,
    waits: [],
    looks: [],
    mean: "5 min",
    may_skip: true,
    entry: "",
    ...more,
  }) as Step;
const job = (more: Partial<Job> = {}, writes = true) => {
  const said: unknown[] = [];
  const made = {
    tools: { writes, photo: "", given: { set: { id: 7, tag: "A-1" } }, answer: { missing: [] } },
    typed: {},
    said,
    say: (body: unknown) => said.push(body),
    forget: vi.fn(),
    put: vi.fn(),
    undo: vi.fn(),
    reason: "",
    ...more,
  };
  return made as unknown as Job & { said: unknown[] };
};
const view = (...steps: Step[]) => ({ steps, left_out: [], pick: { kit: [] } }) as unknown as View;

function at(one: Step, next: Step, j = job(), waiting = false) {
  const moves = { work: vi.fn(), onward: vi.fn() };
  render(<StepNow job={j} view={view(one, next)} step={one} waiting={waiting} {...moves} />);
  return { ...moves, j };
}

describe("a step in the hand", () => {
  it("confirmed says what was typed at it and goes on to the next", () => {
    const typed = { "said:A": "  as it was ", "figure:A": { text: "0.03", unit: "mm" } };
    const { onward, j } = at(step("A", 1, { record: "shims" }), step("B", 2), job({ typed }));
    fireEvent.click(screen.getByRole("button", { name: /Done/ }));
    expect(j.said).toEqual([
      { kind: "done", step: "A", said: "as it was", figure: { text: "0.03", unit: "mm" } },
    ]);
    expect(j.forget).toHaveBeenCalledWith("said:A", "figure:A");
    expect(onward).toHaveBeenCalledWith("B");
  });
  it.each(["done", "skipped"] as const)("goes nowhere by itself when the next is %s", (state) => {
    const { onward } = at(step("A", 1), step("B", 2, { state }));
    fireEvent.click(screen.getByRole("button", { name: /Done/ }));
    expect(onward).not.toHaveBeenCalled();
  });
  it("is not confirmed while it waits for something, or while its answer is on its way", () => {
    at(step("A", 1, { waits: ["It needs a record."], hold: "Confirm proved" }), step("B", 2));
    expect(screen.getByRole<HTMLButtonElement>("button", { name: /Confirm proved/ }).disabled).toBe(true);
    expect(screen.getByText("It needs a record.")).toBeTruthy();
    cleanup();
    const { j } = at(step("A", 1), step("B", 2), job(), true);
    fireEvent.click(screen.getByRole("button", { name: /Done/ }));
    expect(j.said).toEqual([]);
  });
  it("says its caution before it says what to do, and its hold as words of its button", () => {
    at(
      step("A", 1, { caution: "Nobody under it.", hold: "Confirm area closed", second: true }),
      step("B", 2),
    );
    const words = document.body.textContent;
    expect(words.indexOf("Nobody under it.")).toBeLessThan(words.indexOf("do A"));
    expect(screen.getByText(/It takes a second person/)).toBeTruthy();
  });
  it("is skipped with a reason only", () => {
    const j = job({ typed: { "why:A": "no strainer here" } });
    at(step("A", 1), step("B", 2), j);
    fireEvent.click(screen.getByRole("button", { name: "Skip, give reason" }));
    fireEvent.click(screen.getByRole("button", { name: "Skip this step" }));
    expect(j.said).toEqual([{ kind: "skip", step: "A", why: "no strainer here" }]);
    cleanup();
    at(step("A", 1), step("B", 2));
    fireEvent.click(screen.getByRole("button", { name: "Skip, give reason" }));
    expect(screen.getByRole<HTMLButtonElement>("button", { name: "Skip this step" }).disabled).toBe(true);
    cleanup();
    at(step("A", 1, { may_skip: false }), step("B", 2));
    expect(screen.queryByRole("button", { name: "Skip, give reason" })).toBeNull();
  });
  it("opens its bench in its place", () => {
    const { work } = at(step("A", 1, { opens: "bolts" }), step("B", 2));
    fireEvent.click(screen.getByRole("button", { name: "Tighten bolts" }));
    expect(work).toHaveBeenCalledWith("bolts");
  });
  it("that is done says by whom, and is taken back by its entry", () => {
    const done = step("A", 1, { state: "done", by: "Jun", said: "quiet", entry: "e-9" });
    const { j } = at(done, step("B", 2));
    expect(screen.getByText(/Done by Jun/).textContent).toContain("quiet");
    fireEvent.click(screen.getByRole("button", { name: "Take it back" }));
    expect(j.undo).toHaveBeenCalledWith("e-9");
  });
  it("is read by who may not write", () => {
    at(step("A", 1), step("B", 2), job({}, false));
    expect(screen.getByText("do A")).toBeTruthy();
    expect(screen.queryByRole("button", { name: /Done/ })).toBeNull();
  });
});
describe("the rail", () => {
  it("marks hold points, and a step is chosen from it", () => {
    const choose = vi.fn();
    const steps = view(step("A", 1, { state: "done" }), step("B", 2, { hold: "Confirm" }));
    render(<Rail view={steps} at="B" folded={false} choose={choose} />);
    const [first, second] = screen.getAllByRole("listitem");
    expect([first?.dataset.state, first?.dataset.hold]).toEqual(["done", undefined]);
    expect(second?.dataset.hold).toBe("true");
    expect(screen.getByRole("button", { name: /title of B/ }).getAttribute("aria-current")).toBe("step");
    fireEvent.click(screen.getByRole("button", { name: /title of A/ }));
    expect(choose).toHaveBeenCalledWith("A");
  });
});
describe("the other of a pair", () => {
  const pair = {
    tag: "A-2",
    said: "",
    again: { shown: "245" },
    parts: { shown: "64" },
    time: "2 h 40 min",
    people: 2,
    unpriced: ["casing ring"],
  } as unknown as NonNullable<View["pair"]>;
  it("is asked about with both costs, and what has no price is named", () => {
    const j = job();
    render(<Pair job={j} pair={pair} />);
    expect(document.body.textContent).toContain("without casing ring: no price on the shelf");
    fireEvent.click(screen.getByRole("button", { name: "Later" }));
    expect(j.said).toEqual([{ kind: "about", twin: "later" }]);
  });
  it("says to a reader what was answered, and no more", () => {
    render(<Pair job={job({}, false)} pair={{ ...pair, said: "now" }} />);
    expect(screen.getByText("Do it now").tagName).toBe("P");
    expect(screen.queryByRole("button")).toBeNull();
  });
});
describe("closing", () => {
  const lot = (place: string, more: object = {}) => ({
    code: "S-16",
    title: "Seal set",
    place,
    free: 2,
    emergency: false,
    reserved: 1,
    used: 0,
    ...more,
  });
  const with_ = (...lots: object[]) =>
    ({ ...view(), pick: { kit: [{ lots }, { lots }] } }) as unknown as View;
  it("books what was used at its own place once, and keeps what is reserved", () => {
    const j = job({ typed: { "used:S-16:Shelf 1": "1" } });
    render(<Closing job={j} view={with_(lot("Shelf 1"), lot("Van 1", { used: 2 }))} />);
    expect(document.querySelectorAll("[data-used]")).toHaveLength(2);
    fireEvent.click(screen.getAllByRole("button", { name: "Save" })[0] as HTMLElement);
    fireEvent.click(screen.getByRole("button", { name: /old one is good/ }));
    expect(j.said).toEqual([
      { kind: "part", code: "S-16", place: "Shelf 1", reserved: 1, used: 1 },
      { kind: "part", code: "S-16", place: "Van 1", reserved: 1, used: 2, emergency: true },
    ]);
  });
  it("books nothing from what is kept for an emergency", () => {
    render(<Closing job={job()} view={with_(lot("Shelf 1", { emergency: true }))} />);
    expect(document.querySelector("[data-used]")).toBeNull();
    expect(screen.getByText(/counted out on its shelf/)).toBeTruthy();
  });
  it("is put on record only when nothing is missing, and left without one only with a reason", () => {
    render(<Closing job={job()} view={view()} />);
    expect(screen.getByRole("button", { name: "Save record" })).toBeTruthy();
    expect(
      screen.getByRole<HTMLButtonElement>("button", { name: "Close without record", hidden: true }).disabled,
    ).toBe(true);
    cleanup();
    const j = job();
    (j.tools as unknown as { answer: object }).answer = { missing: [{ field: "cause" }] };
    render(<Closing job={j} view={view()} />);
    expect(screen.queryByRole("button", { name: "Save record" })).toBeNull();
  });
});
