import { act, cleanup, fireEvent, render, renderHook, screen } from "@testing-library/react";
import { HotkeysProvider } from "react-hotkeys-hook";
import type { ReactElement } from "react";
import { MemoryRouter } from "react-router";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { ApiError, type Schemas } from "./client";
import { enteredFields, FigureField } from "./components/Figure";
import { MarginLine } from "./components/MarginLine";
import { Complaint, Failed, Ready } from "./components/States";
import { VerdictShape, VerdictWord } from "./components/VerdictWord";
import { dropDraft, forgetDrafts, readDraft, useDraft, writeDraft } from "./drafts";
import { listKeys, PAGE_KEYS, useKeys, useQuiet } from "./keys";

afterEach(cleanup);
beforeEach(() => {
  localStorage.clear();
  forgetDrafts();
});

describe("a draft", () => {
  it("is kept at every change and there again after a reload", () => {
    const first = renderHook(() => useDraft("k", { a: 1 }));
    expect(first.result.current.kept).toBe(false);
    act(() => first.result.current.change({ a: 2 }));
    expect(readDraft("k")).toEqual({ a: 2 });
    first.unmount();
    const again = renderHook(() => useDraft("k", { a: 1 }));
    expect([again.result.current.value, again.result.current.kept]).toEqual([{ a: 2 }, true]);
  });
  it("is gone when it is done, and the page starts afresh", () => {
    const hook = renderHook(() => useDraft("k", { a: 1 }));
    act(() => hook.result.current.change((d) => ({ a: d.a + 1 })));
    act(() => hook.result.current.done({ a: 9 }));
    expect([readDraft("k"), hook.result.current.value]).toEqual([null, { a: 9 }]);
  });
  it("changes with its place: another set's draft is another draft", () => {
    writeDraft("two", { a: 22 });
    const hook = renderHook(({ key }) => useDraft(key, { a: 0 }), { initialProps: { key: "one" } });
    hook.rerender({ key: "two" });
    expect(hook.result.current.value).toEqual({ a: 22 });
    dropDraft("two");
    hook.rerender({ key: "one" });
    expect(hook.result.current.value).toEqual({ a: 0 });
  });
});

describe("keys", () => {
  const run = vi.fn();
  beforeEach(() => run.mockClear());
  const Page = ({ ctrl = false }: { ctrl?: boolean }) => {
    useKeys([{ key: "c", does: "start a check", run, ctrl }]);
    return <input aria-label="figure" />;
  };
  const shown = (page: ReactElement) =>
    render(<HotkeysProvider initiallyActiveScopes={[PAGE_KEYS]}>{page}</HotkeysProvider>);
  it("work on the page and are listed", () => {
    shown(<Page />);
    expect(listKeys().map((k) => k.does)).toContain("start a check");
    fireEvent.keyDown(document.body, { key: "c", code: "KeyC" });
    expect(run).toHaveBeenCalledOnce();
  });
  it("leave a field that is in hand alone", () => {
    shown(<Page />);
    fireEvent.keyDown(screen.getByLabelText("figure"), { key: "c", code: "KeyC" });
    expect(run).not.toHaveBeenCalled();
  });
  it("work in a field with Ctrl", () => {
    shown(<Page ctrl />);
    fireEvent.keyDown(screen.getByLabelText("figure"), { key: "c", code: "KeyC", ctrlKey: true });
    fireEvent.keyDown(document.body, { key: "c", code: "KeyC" });
    expect(run).toHaveBeenCalledOnce();
  });
  it("rest while something lies over the page, and come back with it", () => {
    const Over = ({ over }: { over: boolean }) => {
      useQuiet(over);
      return <Page />;
    };
    const within = (over: boolean) => (
      <HotkeysProvider initiallyActiveScopes={[PAGE_KEYS]}>
        <Over over={over} />
      </HotkeysProvider>
    );
    const { rerender } = render(within(true));
    fireEvent.keyDown(document.body, { key: "c", code: "KeyC" });
    expect(run).not.toHaveBeenCalled();
    rerender(within(false));
    fireEvent.keyDown(document.body, { key: "c", code: "KeyC" });
    expect(run).toHaveBeenCalledOnce();
  });
  it("are gone with their page", () => {
    shown(<Page />).unmount();
    fireEvent.keyDown(document.body, { key: "c", code: "KeyC" });
    expect(run).not.toHaveBeenCalled();
    expect(listKeys()).toEqual([]);
  });
});

describe("the margin drawing", () => {
  const line = (more: Partial<Schemas["ShownLine"]> = {}): Schemas["ShownLine"] => ({
    value: { value: 3, unit: "MOhm", bound: "exact", shown: "3 MΩ", figure: "3", error: "", symbol: "MΩ" },
    value_at: 0.2,
    limit_at: 0.5,
    bound: "exact",
    margin: "2 MΩ short",
    over: true,
    floor: true,
    ticks: [
      { limit: "a", label: "minimum", shown: "5 MΩ", at: 0.5, governs: true, overridden: true },
      { limit: "b", label: "", shown: "15 MΩ", at: 0.52, governs: false, overridden: false },
    ],
    ...more,
  });
  it("says value, margin and limits to those who do not see it", () => {
    render(<MarginLine line={line()} verdict="stop" />);
    expect(screen.getByRole("img").getAttribute("aria-label")).toBe(
      "3 MΩ; 2 MΩ short; limits minimum 5 MΩ,  15 MΩ",
    );
  });
  it("marks a site's own limit and drops a word that would run into another", () => {
    const { container } = render(<MarginLine line={line()} verdict="stop" />);
    const words = [...container.querySelectorAll("text:not(.m)")];
    expect(words[0]?.textContent).toBe("minimum ✎");
    expect(words[0]?.getAttribute("y")).not.toBe(words[1]?.getAttribute("y"));
  });
  it("draws a figure as a dot and a bound as an open arrow", () => {
    const { container, rerender } = render(<MarginLine line={line()} verdict="stop" />);
    expect(container.querySelectorAll(".dot")).toHaveLength(1);
    rerender(<MarginLine line={line({ bound: "at_least" })} verdict="good" />);
    expect(container.querySelectorAll(".dot")).toHaveLength(0);
  });
  it("goes without words where there is no room", () => {
    const { container } = render(<MarginLine line={line()} verdict="stop" width={80} />);
    expect(container.querySelectorAll("text")).toHaveLength(0);
  });
});

describe("verdicts", () => {
  it.each(["good", "watch", "act", "stop", "unknown"])(
    "%s has a shape and a word, not only a colour",
    (verdict) => {
      const { container } = render(
        <>
          <VerdictShape verdict={verdict as "good"} />
          <VerdictWord verdict={verdict as "good"} />
        </>,
      );
      expect(container.querySelector("svg")).not.toBeNull();
      expect(container.textContent).toContain(verdict);
    },
  );
  it("says watch beside unknown", () => {
    render(<VerdictWord verdict="unknown" beside="watch" />);
    expect(document.body.textContent).toMatch(/unknown.*watch/);
  });
});

describe("a typed figure", () => {
  const rule = {
    label: "Nameplate current (FLA)",
    dimension: "current",
    units: ["A", "mA"],
    unit: "A",
    help: "",
  };
  it("comes from the schema", () => {
    expect(enteredFields({ properties: { amps: { "x-entered": rule }, note: { title: "Note" } } })).toEqual({
      amps: rule,
    });
    expect(enteredFields({})).toEqual({});
  });
  it("keeps its text when its unit is switched, and is null when it is emptied", () => {
    const change = vi.fn();
    render(
      <FigureField
        rule={rule}
        value={{ text: "20", unit: "A" }}
        preferred={undefined}
        symbols={{ A: "A", mA: "mA" }}
        onChange={change}
      />,
    );
    fireEvent.change(screen.getByLabelText("Nameplate current (FLA), unit"), { target: { value: "mA" } });
    fireEvent.change(screen.getByLabelText("Nameplate current (FLA)"), { target: { value: "" } });
    expect(change.mock.calls).toEqual([[{ text: "20", unit: "mA" }], [null]]);
  });
  it("shows what is wrong with it", () => {
    render(
      <FigureField
        rule={rule}
        value={{ text: "-2", unit: "A" }}
        preferred={undefined}
        symbols={{}}
        problem="cannot be negative"
        onChange={vi.fn()}
      />,
    );
    expect(screen.getByRole("alert").textContent).toBe("cannot be negative");
    expect(screen.getByLabelText("Nameplate current (FLA)").getAttribute("aria-invalid")).toBe("true");
  });
});

describe("the states of a page", () => {
  const inside = (query: Parameters<typeof Ready<string>>[0]["query"]) =>
    render(
      <MemoryRouter>
        <Ready query={query}>{(d) => <p>{d}</p>}</Ready>
      </MemoryRouter>,
    );
  it("waits, then shows", () => {
    inside({ data: undefined, error: null, refetch: vi.fn() });
    expect(screen.getByRole("status")).toBeTruthy();
    cleanup();
    inside({ data: "here", error: null, refetch: vi.fn() });
    expect(screen.getByText("here")).toBeTruthy();
  });
  it.each([
    ["forbidden", "No permission"],
    ["not_found", "Not found"],
    ["no_connection", "No connection"],
    ["database_gone", "Database not responding"],
    ["odd", "Request failed"],
  ])("says %s in its own words", (code, title) => {
    render(
      <MemoryRouter>
        <Failed error={new ApiError(400, code, "The reason.")} />
      </MemoryRouter>,
    );
    expect(screen.getByRole("heading").textContent).toBe(title);
    expect(screen.getByRole("alert").textContent).toContain("The reason.");
  });
  it("tries again when asked", () => {
    const refetch = vi.fn();
    inside({ data: undefined, error: new ApiError(0, "no_connection", "x"), refetch });
    fireEvent.click(screen.getByRole("button", { name: "Try again" }));
    expect(refetch).toHaveBeenCalledOnce();
  });
  it("complains with every field once", () => {
    const problem = (message: string) => ({ code: "x", field: "f", value: "", message, right: "" });
    render(<Complaint error={new ApiError(422, "x", "First.", [problem("First."), problem("Second.")])} />);
    expect(screen.getByRole("alert").textContent).toBe("First.Second.");
    cleanup();
    expect(render(<Complaint error={null} />).container.textContent).toBe("");
  });
});
