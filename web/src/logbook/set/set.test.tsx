import { cleanup, fireEvent, render, screen, waitFor, within } from "@testing-library/react";
import { MemoryRouter } from "react-router";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Schemas } from "../../base";
import { apart } from "./DueList";
import { History } from "./History";
import { PartTrends } from "./PartTrends";
import { axisOf, placed, ticksOf, widthOf, type Said } from "./timeline";
import { Timeline, type Moment } from "./Timeline";
import { Wrong } from "./Wrong";

let history: Schemas["HistoryOut"] = { records: [], events: [], next: "" };
let moments: Moment[] = [];
let newest: Schemas["TrendOut"][] = [];
let every: Schemas["TrendOut"][] = [];
const drawn: { data: unknown[] }[] = [];
vi.mock("../../base", async (real) => ({
  ...(await real<object>()),
  useMe: () => ({ locale: "en-GB", sheet: "light" }),
  useNarrow: () => false,
}));
vi.mock("../queries", () => {
  const got = (data: unknown) => ({ data, error: null, refetch: vi.fn() });
  return {
    useHistory: () => got(history),
    useTrends: () => got(newest),
    useAllTrends: (id: number | null) => got(id === null ? undefined : every),
  };
});
vi.mock("uplot", () => ({
  default: class {
    static tzDate = (d: Date) => d;
    constructor(_: unknown, data: unknown[]) {
      drawn.push({ data });
    }
    setSize() {
      /* nothing is drawn here */
    }
    destroy() {
      /* nothing was drawn here */
    }
  },
}));
vi.stubGlobal(
  "ResizeObserver",
  class {
    observe() {
      /* none */
    }
    disconnect() {
      /* none */
    }
  },
);
beforeEach(() => {
  history = { records: [], events: [], next: "" };
  moments = [];
  drawn.length = 0;
});
afterEach(cleanup);

const moment = (more: Partial<Moment>): Moment => ({
  kind: "record",
  at: "2026-03-01T09:00:00Z",
  until: null,
  title: "Running check",
  says: "",
  part: "motor",
  verdict: null,
  record: null,
  ...more,
});

describe("the history", () => {
  const record = (id: number, more: object = {}) =>
    ({
      id,
      bench: "insulation",
      title: "Insulation test",
      taken_at: "2026-03-02T09:00:00Z",
      by: "Tia",
      verdict: "good",
      live: true,
      reason: "",
      supersedes: null,
      superseded_by: null,
      summary: `summary ${id}`,
      ...more,
    }) as Schemas["RecordBrief"];
  const show = () =>
    render(
      <MemoryRouter>
        <History setId={7} zone="Europe/Lisbon" moments={moments} kind="" part="" />
      </MemoryRouter>,
    );
  it("teaches the next step while it is empty", () => {
    show();
    expect(document.body.textContent).toContain("No records yet");
  });
  it("strikes a corrected record through and keeps it legible beside its correction", () => {
    history = {
      records: [record(2, { supersedes: 1, reason: "wrong range" }), record(1, { live: false })],
      events: [],
      next: "",
    };
    show();
    const [before, now] = screen.getAllByRole("listitem").sort((a) => (a.dataset.live === "true" ? 1 : -1));
    expect(now?.textContent).toContain("“wrong range”");
    expect(before?.querySelectorAll(".struck").length).toBeGreaterThan(0);
    expect(before?.textContent).toContain("summary 1");
  });
  it("shows events between, in the site's own time, and more on a tap", () => {
    history = {
      records: [record(1)],
      events: [
        {
          at: "2026-07-01T10:00:00Z",
          kind: "rewind",
          title: "Motor rewound",
          note: "Rewound at the works.",
          by: "Leo",
        },
      ],
      next: "2026-01-01T00:00:00Z~1",
    };
    show();
    expect(document.body.textContent).toMatch(/11:00.*Rewound at the works\./);
    fireEvent.click(screen.getByRole("button", { name: "Older records" }));
    expect(screen.getByRole("button", { name: "Newer" })).toBeTruthy();
  });
  it("shows a few lines, the newest first, calls and repairs among them, and the rest when asked", () => {
    history = {
      records: [1, 2, 3, 4, 5].map((n) => record(n, { taken_at: `2026-03-0${n}T09:00:00Z` })),
      events: [],
      next: "",
    };
    moments = [moment({ kind: "call", title: "Leaking", at: "2026-03-04T12:00:00Z" })];
    show();
    const lines = screen.getAllByRole("listitem").map((l) => l.textContent ?? "");
    expect(lines.length).toBe(5);
    expect(lines[0]).toContain("summary 5");
    expect(lines[1]).toContain("Leaking");
    expect(lines[1]).toContain("open");
    fireEvent.click(screen.getByRole("button", { name: "Show 1 more" }));
    expect(screen.getAllByRole("listitem").at(-1)?.textContent).toContain("summary 1");
  });
});

describe("the trends of a part", () => {
  const point = (t: number) => ({ t: t * 86400, value: t, bound: "exact", shown: `${t} A`, record: t });
  const trend = (from: number, partial: boolean): Schemas["TrendOut"] => ({
    series: 1,
    measurand: "current_mean",
    title: "Current",
    symbol: "A",
    leg: "",
    conditions: "",
    differs: "",
    part: "motor",
    log: false,
    floor: false,
    partial,
    points: [from, 299, 300].map(point),
    total: 300,
    limits: [],
    says: "",
    path: [],
    twin: null,
    events: [],
  });
  it("draws the newest at once, says that they are, and fetches all when asked", async () => {
    [newest, every] = [[trend(298, true)], [trend(1, false)]];
    render(<PartTrends setId={7} part="motor" zone="UTC" />);
    expect(document.querySelector(".plotroom")).toBeTruthy();
    await screen.findByText(/the newest 3 of 300 points/);
    const first = () => (drawn.at(-1)?.data[0] as number[] | undefined)?.[0];
    await waitFor(() => expect(first()).toBe(298 * 86400));
    fireEvent.click(screen.getByRole("button", { name: "Show all points" }));
    await waitFor(() => expect(first()).toBe(86400));
    expect(document.body.textContent).not.toContain("the newest 3");
    fireEvent.click(screen.getByRole("button", { name: "Show the newest points" }));
    expect(document.body.textContent).toContain("the newest 3 of 300 points");
  });
  it("offers no more than there is", () => {
    newest = [trend(1, false)];
    render(<PartTrends setId={7} part="motor" zone="UTC" />);
    expect(screen.queryByRole("button", { name: /points/ })).toBeNull();
  });
  it("draws one large and the others small, of this part alone; a tap makes another the large one", async () => {
    const other = (series: number, measurand: string, title: string, part = "motor") => ({
      ...trend(1, false),
      ...{ series, measurand, title, part },
    });
    newest = [trend(1, false), other(2, "load", "Load"), other(3, "voltage_mean", "Voltage", "supply")];
    render(<PartTrends setId={7} part="motor" zone="UTC" />);
    await screen.findByText(/300 points/);
    const small = () =>
      [...document.querySelectorAll<HTMLElement>("[data-small]")].map((e) => e.dataset.small);
    expect(small()).toEqual(["load"]);
    fireEvent.click(screen.getByRole("button", { name: /Load/ }));
    expect(small()).toEqual(["current_mean"]);
    expect(document.querySelector("[data-measurand=load]")).toBeTruthy();
    expect(document.body.textContent).not.toContain("Voltage");
  });
  it("never mixes what was read in another state: it is chosen by its words", async () => {
    newest = [
      { ...trend(1, false), conditions: "as found" },
      { ...trend(1, false), series: 2, conditions: "as left", differs: "as left", total: 2 },
    ];
    render(<PartTrends setId={7} part="motor" zone="UTC" />);
    await screen.findByText(/300 points/);
    expect(document.querySelector("[data-small]")).toBeNull();
    fireEvent.click(screen.getByRole("button", { name: "as left (2)" }));
    await waitFor(() => expect(document.body.textContent).toContain("Plotted separately: as left"));
  });
});

describe("the line of what happened", () => {
  const day = 86_400_000;
  const now = Date.UTC(2026, 10, 14);
  it("keeps the order of time on both sides of its break, and what is to come right of today", () => {
    const axis = axisOf(now - 1100 * day, now, now + 60 * day, 1200);
    const days = [-1100, -700, -130, -119, -3, 0, 20, 60, 900];
    const at = days.map((d) => axis.x(now + d * day));
    expect(at).toEqual([...at].sort((a, b) => a - b));
    expect(axis.gap?.[0]).toBeLessThan(axis.x(now - 119 * day));
    expect(Math.max(...at)).toBeLessThanOrEqual(1200);
    expect(axis.now).toBeLessThan(axis.x(now + 20 * day));
  });
  it("has no break where nothing is old", () => {
    expect(axisOf(now - 100 * day, now, now, 800).gap).toBeNull();
  });
  it.each([350, 760, 1212, 1850])("prints no date over another at %i wide", (width) => {
    const ticks = ticksOf(axisOf(now - 3000 * day, now, now + 200 * day, width), "en-GB");
    expect(ticks.length).toBeGreaterThan(3);
    ticks.slice(1).forEach((t, i) => {
      const before = ticks[i] ?? t;
      expect(t.x).toBeGreaterThan(before.x + widthOf(before.word));
    });
  });
  it.each([350, 1212])("lets no words touch, at %i wide: the weightiest stay", (width) => {
    const said: Said[] = Array.from({ length: 60 }, (_, i) => ({
      x: ((i * 37) % width) + 1,
      rank: i === 41 ? 0 : 3,
      lines: ["12 Nov 2026", `What happened ${i}`],
    }));
    const out = placed(said, width).sort((a, b) => a.left - b.left);
    expect(out.some((p) => p.rank === 0)).toBe(true);
    out.forEach((p, i) => {
      const right = p.left + Math.max(...p.lines.map(widthOf));
      expect(p.left).toBeGreaterThanOrEqual(0);
      expect(right).toBeLessThanOrEqual(width);
      const next = out[i + 1];
      if (next) expect(next.left).toBeGreaterThan(right);
    });
  });
});

describe("what is wrong on a set", () => {
  const answer = (more: object) => ({
    question: "own_past",
    subject: "",
    title: "Current, own history",
    verdict: "act",
    beside: null,
    by: "this_shift",
    reason: "",
    was: "",
    line: null,
    taken_at: "2026-11-01T09:00:00Z",
    due: "2026-12-01T09:00:00Z",
    record: 3,
    ...more,
  });
  const part = (name: string, verdict: string, answers: object[], more: object = {}) =>
    ({
      part: name,
      title: name,
      verdict,
      beside: null,
      by: null,
      reason: `${name} says`,
      answers,
      ...more,
    }) as never;
  const show = (parts: never[], open = 0) =>
    render(
      <MemoryRouter>
        <Wrong setId={7} zone="UTC" open={open} may state={{ verdict: "act", parts, figures: [], due: [] }} />
      </MemoryRouter>,
    );
  it("says each part once, and of a good one when it was read", () => {
    show([part("pump", "act", [answer({})], { by: "this_shift" }), part("motor", "good", [answer({})])]);
    expect(screen.getByRole("heading", { name: /own history.*act, this shift/ })).toBeTruthy();
    const good = within(screen.getByRole("list")).getByRole("listitem");
    expect(good.textContent).toBe(" motor: good, read 1 Nov 2026");
  });
  it("never says nothing was found without saying what is not cleared", () => {
    show([part("motor", "good", [answer({})])], 1);
    expect(document.body.textContent).toContain("Open items on this set: not cleared.");
  });
  it("says both where an unknown stands beside a watch", () => {
    show([part("motor", "unknown", [answer({})], { beside: "watch" })]);
    expect(screen.getByRole("heading", { level: 3 }).textContent).toContain("unknown and watch");
  });
  it("says what an overdue answer was, and calls it unknown", () => {
    show([part("coupling", "unknown", [answer({ was: "Vertical offset 0.02 mm.", verdict: "unknown" })])]);
    expect(document.body.textContent).toContain("On 1 Nov 2026: Vertical offset 0.02 mm.");
    expect(screen.getByRole("heading", { level: 3 }).textContent).toContain("unknown");
  });
});

describe("the timeline", () => {
  it("counts what there is, and says that older records are not on it", () => {
    const all = [
      moment({}),
      moment({ kind: "open", title: "Jumper" }),
      moment({ kind: "call", title: "Leaking" }),
    ];
    const show = (older: boolean) => (
      <MemoryRouter>
        <Timeline
          setId={7}
          moments={all}
          older={older}
          due={[]}
          zone="UTC"
          kind=""
          setKind={() => undefined}
          part=""
        />
      </MemoryRouter>
    );
    const { rerender } = render(show(false));
    expect(screen.getByRole("button", { name: "records 1" })).toBeTruthy();
    expect(screen.getByRole("button", { name: "open items 1, 1 open" })).toBeTruthy();
    rerender(show(true));
    expect(screen.getByRole("button", { name: "records the newest 1" })).toBeTruthy();
  });
});

describe("how far off a day is", () => {
  it.each([
    ["2026-11-14T10:00:00Z", "today"],
    ["2026-11-15T12:00:00Z", "1 day"],
    ["2026-11-13T12:00:00Z", "1 day over"],
    ["2026-12-14T12:00:00Z", "30 days"],
  ])("%s: %s", (at, said) => {
    expect(apart(at, new Date("2026-11-14T12:00:00Z"))).toBe(said);
  });
});
