import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Schemas, Shown } from "../../base";
import { FindingBox, sourced } from "./FindingBox";
import { Judged } from "./Judged";
import { TrendDrawn } from "./TrendDrawn";

type Finding = Schemas["ShownFinding"];
const drawn: { data: unknown[]; options: Record<string, unknown> }[] = [];
vi.mock("../../base", async (real) => ({
  ...(await real<object>()),
  useMe: () => ({ locale: "en-GB", sheet: "light" }),
  useNarrow: () => false,
}));
vi.mock("uplot", () => ({
  default: class {
    static tzDate = (d: Date) => d;
    constructor(options: Record<string, unknown>, data: unknown[]) {
      drawn.push({ options, data });
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
  drawn.length = 0;
});
afterEach(cleanup);

const finding = (more: Partial<Finding> = {}): Finding => ({
  question: "insulation",
  part: "motor",
  subject: "",
  beside: null,
  lacks: [],
  title: "Insulation against the minimum",
  verdict: "act",
  by: "this_week",
  unknown: null,
  rule: "insulation",
  reason: "9 MΩ at 40 °C.",
  working: ["9 MΩ × 1 = 9 MΩ"],
  notes: ["Thermosetting governs."],
  line: null,
  formula: "R40 = K × R",
  why: "Below it the winding is dried.",
  source: "IEEE 43-2013",
  certainty: "standard",
  from_memory: true,
  limits: [
    {
      id: "m",
      title: "Least",
      shown: "20 MΩ",
      published: "5 MΩ",
      source: "IEEE 43-2013 table 3",
      certainty: "standard",
      from_memory: true,
      override: {
        limit: "m",
        value: 20,
        unit: "MOhm",
        choice: "",
        reason: "sea air",
        by: "Leo",
        at: "2026-01-01T00:00:00Z",
      },
    },
  ],
  ...more,
});

describe("a finding", () => {
  it("says what, how soon and why, and opens to its rule", () => {
    render(<FindingBox finding={finding()} />);
    const title = screen.getByRole("button");
    expect(title.textContent).toContain("Insulation against the minimum: act, this week");
    expect(screen.queryByText("R40 = K × R")).toBeNull();
    fireEvent.click(title);
    expect(title.getAttribute("aria-expanded")).toBe("true");
    for (const words of ["R40 = K × R", "9 MΩ × 1 = 9 MΩ", "Below it the winding is dried."])
      expect(screen.getByText(words)).toBeTruthy();
  });
  it("shows a site's own limit wherever it is used, with who and why", () => {
    render(<FindingBox finding={finding()} />);
    expect(document.body.textContent).toContain("Least: 20 MΩ instead of 5 MΩ, set by Leo: “sea air”");
  });
  it("says which kind of unknown it is", () => {
    render(<FindingBox finding={finding({ verdict: "unknown", unknown: "inconclusive", by: null })} />);
    expect(screen.getByRole("button").textContent).toContain("unknown: test cannot tell");
  });
  it("never dresses a figure from practice as a standard", () => {
    expect(sourced({ source: "common practice, no source", certainty: "practice", from_memory: false })).toBe(
      "common practice, no source",
    );
    expect(sourced({ source: "IEC 60085", certainty: "standard", from_memory: true })).toBe(
      "IEC 60085 (published standard, quoted from memory)",
    );
  });
});

describe("a whole judgement", () => {
  const answer = (more: Partial<Shown>): Shown =>
    ({
      verdict: "act",
      beside: null,
      findings: [finding()],
      advice: [],
      questions: [],
      waiting: [],
      ...more,
    }) as unknown as Shown;
  it("marks an answer for the previous figures", () => {
    render(<Judged answer={answer({})} before />);
    expect(screen.getByTestId("judged").getAttribute("aria-busy")).toBe("true");
    expect(document.body.textContent).toContain("for the previous figures");
  });
  it("keeps two answers to one question apart, each of its own place, as they change", () => {
    const warned = vi.spyOn(console, "error").mockImplementation(() => undefined);
    const at = (question: string, subject: string) =>
      finding({ question, subject, reason: `${question} at ${subject}` });
    const all = [at("joint", "F"), at("rating", "F"), at("joint", "K"), at("rating", "K")];
    const { rerender } = render(<Judged answer={answer({ findings: all })} />);
    rerender(<Judged answer={answer({ findings: [all[3]!, all[0]!] })} />);
    const said = [...document.querySelectorAll("[data-question]")].map((x) => x.textContent);
    expect(said).toHaveLength(2);
    expect(said[0]).toContain("rating at K");
    expect(warned).not.toHaveBeenCalled();
    warned.mockRestore();
  });
  it("says what a repair will and will not change, what it asks and what it waits for", () => {
    render(
      <Judged
        answer={answer({
          view: {
            advice: [
              {
                cause: "x",
                says: "The shaft asks for it.",
                changes: ["Throttling."],
                leaves: ["Lugs will not."],
              },
            ],
          },
          questions: ["Read three times?"],
          waiting: ["1 of 3 so far."],
        })}
      />,
    );
    for (const words of [
      "The shaft asks for it.",
      "Throttling.",
      "Lugs will not.",
      "Read three times?",
      "1 of 3 so far.",
    ])
      expect(document.body.textContent).toContain(words);
  });
});

describe("a trend", () => {
  const point = (t: number, value: number, bound = "exact") => ({
    t,
    value,
    bound,
    shown: `${bound === "exact" ? "" : "≥ "}${value} MΩ`,
    record: t,
  });
  const trend = (more: Partial<Schemas["TrendOut"]> = {}): Schemas["TrendOut"] => ({
    series: 1,
    measurand: "insulation_40",
    title: "Insulation at 40 °C",
    symbol: "MΩ",
    leg: "",
    conditions: "at the motor",
    differs: "",
    part: "motor",
    log: true,
    floor: true,
    partial: false,
    points: [point(86400, 2000, "at_least"), point(172800, 900), point(259200, 0)],
    total: 3,
    limits: [{ label: "minimum", value: 5 }],
    says: "Too few tests.",
    path: [],
    twin: null,
    events: [],
    ...more,
  });
  it("never joins a bound to the line, and leaves a reading of nothing off a log axis", () => {
    render(<TrendDrawn trend={trend()} zone="UTC" />);
    expect(drawn[0]?.data[1]).toEqual([null, 900, null]);
    expect((drawn[0]?.options.scales as { y: { distr: number } }).y.distr).toBe(3);
  });
  it("does not draw its line across an event", () => {
    const points = [point(86400, 40), point(86400 * 9, 1800)];
    render(
      <TrendDrawn
        trend={trend({
          points,
          events: [
            {
              at: new Date(86400 * 5000).toISOString(),
              kind: "rewind",
              title: "Motor rewound",
              note: "rewound",
              by: "Leo",
            },
          ],
        })}
        zone="UTC"
      />,
    );
    expect(drawn[0]?.data).toEqual([
      [86400, 86400 * 5, 86400 * 9],
      [40, null, 1800],
    ]);
    expect((drawn[0]?.options.series as { spanGaps?: boolean }[])[1]?.spanGaps).toBe(false);
  });
  it("keeps the floor and the forecast in sight", () => {
    render(<TrendDrawn trend={trend({ path: [{ t: 864000, likely: 6, low: 4, high: 9 }] })} zone="UTC" />);
    const scales = drawn[0]?.options.scales as { x: { range: number[] }; y: { range: number[] } };
    expect(scales.y.range[0]).toBeLessThan(5);
    expect(scales.x.range[1]).toBeGreaterThan(864000);
  });
  it("has every figure behind it as a table, newest first, bounds as they are", () => {
    render(<TrendDrawn trend={trend()} zone="UTC" />);
    fireEvent.click(screen.getByRole("button", { name: "Show figures" }));
    const cells = screen.getAllByRole("cell").map((c) => c.textContent);
    expect(cells[1]).toBe("0 MΩ");
    expect(cells.at(-1)).toBe("≥ 2000 MΩ");
  });
  it("says the word in which it differs, and what the twin did", () => {
    render(
      <TrendDrawn
        trend={trend({ differs: "250 V", twin: { tag: "C-2", differs: "", points: [point(86400, 640)] } })}
        zone="UTC"
      />,
    );
    expect(document.body.textContent).toContain("Plotted separately: 250 V");
    expect(document.body.textContent).toContain("Faint: C-2, 640 MΩ");
    cleanup();
    render(
      <TrendDrawn trend={trend({ twin: { tag: "C-2", differs: "links out", points: [] } })} zone="UTC" />,
    );
    expect(document.body.textContent).toContain("C-2 not comparable: links out");
  });
});
