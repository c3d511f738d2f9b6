import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Schemas } from "../../base";
import { marksAt } from "./marksAt";
import { CurvePaper } from "./CurvePaper";
import { standIn, ToolsGiven } from "../../safety";
import { SetupField, SetupSentence } from "./fields";
import { MarkLine, Stopwatch } from "./Stopwatch";
import { WindingDrawing } from "./WindingDrawing";

vi.mock("../../base", async (real) => ({ ...(await real<object>()), useMe: () => ({ locale: "en-GB" }) }));
afterEach(cleanup);

const q = (shown: string) => ({
  value: Number.parseFloat(shown),
  unit: "",
  bound: "exact" as const,
  shown,
  figure: shown,
  error: "",
  symbol: "",
});
const point = (x: number, y: number, bound = "exact") =>
  ({ x, y, at: q("60 s"), value: { ...q("800 MΩ"), bound }, entry: `e${x}` }) as Schemas["ShownCurvePoint"];
const curve = (
  before: number,
  y: number,
  more: Partial<Schemas["ShownCurve"]> = {},
): Schemas["ShownCurve"] => ({
  name: "all",
  before,
  taken_at: before ? `2026-0${before}-01T10:00:00Z` : null,
  points: [point(0.4, y), point(0.9, y)],
  differs: "",
  ...more,
});
const paper = (curves: Schemas["ShownCurve"][]): Schemas["ShownCurvePaper"] => ({
  curves,
  x_ticks: [{ at: 0.4, value: q("60 s") }],
  y_ticks: [{ at: 0, value: q("1 MΩ") }],
  floor: 0.2,
});

describe("the curve paper", () => {
  it("teaches the next step while nothing is read", () => {
    render(<CurvePaper paper={null} width={400} height={200} zone="UTC" />);
    expect(screen.getByText(/starts with the first reading/)).toBeTruthy();
  });
  it("tells its figures to those who do not see it", () => {
    render(<CurvePaper paper={paper([curve(0, 0.5)])} width={400} height={200} zone="UTC" />);
    expect(screen.getByRole("img").getAttribute("aria-label")).toContain("winding: 60 s 800 MΩ");
  });
  it("draws a bound as an arrow and a figure as a dot", () => {
    const { container } = render(
      <CurvePaper
        paper={paper([curve(0, 0.5, { points: [point(0.2, 0.5), point(0.6, 0.5, "at_least")] })])}
        width={400}
        height={200}
        zone="UTC"
      />,
    );
    expect(container.querySelectorAll(".nowline circle")).toHaveLength(1);
    expect(container.querySelectorAll(".nowline path")).toHaveLength(2);
  });
  it("names the ghosts' dates, none over another, and the word in which one differs", () => {
    const { container } = render(
      <CurvePaper
        paper={paper([curve(1, 0.5), curve(2, 0.5), curve(3, 0.5, { differs: "250 V" }), curve(0, 0.4)])}
        width={400}
        height={200}
        zone="UTC"
      />,
    );
    const dates = [...container.querySelectorAll("text")].filter((t) => /2026/.test(t.textContent ?? ""));
    const places = dates.map((t) => Number(t.getAttribute("y"))).sort((a, b) => a - b);
    expect(dates.map((t) => t.textContent).join()).toContain("250 V: not compared");
    expect(places[1]! - places[0]!).toBeGreaterThanOrEqual(13);
    expect(places[2]! - places[1]!).toBeGreaterThanOrEqual(13);
    expect(container.querySelector(".g3 path")?.getAttribute("stroke-dasharray")).toBe("2 4");
  });
  it("stands above the minimum, drawn as a floor", () => {
    const { container } = render(
      <CurvePaper paper={paper([curve(0, 0.5)])} width={400} height={200} zone="UTC" />,
    );
    expect(container.querySelector(".floor")).not.toBeNull();
    expect(screen.getByText("minimum at this temperature")).toBeTruthy();
  });
});

describe("the stopwatch", () => {
  const start = Date.parse("2026-03-02T09:00:00Z");
  const at = (seconds: number) => () => new Date(start + seconds * 1000);
  const base = {
    marks: marksAt(15, 30, 60),
    taken: [],
    dischargeUntil: null,
    leg: "L1",
    may: true,
    width: 300,
    onStart: vi.fn(),
    onEnd: vi.fn(),
    onDischarged: vi.fn(),
  };
  beforeEach(() => vi.clearAllMocks());
  const running = { leg: "L1" as const, startedAt: start, endedAt: null, dischargedAt: null };

  it("starts with volts on", () => {
    render(<Stopwatch {...base} clock={null} now={at(0)} />);
    fireEvent.click(screen.getByRole("button", { name: "Start test: L1" }));
    expect(base.onStart).toHaveBeenCalledOnce();
  });
  it("shows the true second and asks for the mark that is due", () => {
    render(<Stopwatch {...base} clock={running} now={at(31)} />);
    expect(screen.getByRole("timer").textContent).toBe("00:31");
    expect(screen.getByText("Read now: 30 s")).toBeTruthy();
  });
  it("names the next mark between two", () => {
    render(<Stopwatch {...base} taken={[15, 31]} clock={running} now={at(46)} />);
    expect(screen.getByText("next at 1 min")).toBeTruthy();
  });
  it("turns into the discharge timer, which cannot be dismissed early", () => {
    const clock = { ...running, endedAt: start + 70_000 };
    render(
      <Stopwatch
        {...base}
        clock={clock}
        dischargeUntil={new Date(start + 350_000).toISOString()}
        now={at(100)}
      />,
    );
    expect(screen.getByRole("timer").textContent).toBe("04:10");
    expect(screen.getByText(/[Kk]eep leads grounded/)).toBeTruthy();
    expect(screen.getByRole("button", { name: "Confirm leads off: L1" })).toHaveProperty("disabled", true);
  });
  it("lets the leads off when the time is over", () => {
    const clock = { ...running, endedAt: start + 70_000 };
    render(
      <Stopwatch
        {...base}
        clock={clock}
        dischargeUntil={new Date(start + 350_000).toISOString()}
        now={at(360)}
      />,
    );
    fireEvent.click(screen.getByRole("button", { name: "Confirm leads off: L1" }));
    expect(base.onDischarged).toHaveBeenCalledOnce();
  });
  it("never lets them off while nobody has said how long", () => {
    render(<Stopwatch {...base} clock={{ ...running, endedAt: start + 70_000 }} now={at(9000)} />);
    expect(screen.getByRole("button", { name: "Confirm leads off: L1" })).toHaveProperty("disabled", true);
  });
  it("gives a viewer nothing to press", () => {
    render(<Stopwatch {...base} may={false} clock={null} now={at(0)} />);
    expect(screen.queryByRole("button")).toBeNull();
  });
  it("draws what was read at its own second, and the mark that is due", () => {
    const { container } = render(
      <MarkLine marks={marksAt(15, 30, 60)} taken={[16, 67]} elapsed={31} width={300} />,
    );
    expect(container.querySelectorAll(".dot")).toHaveLength(2);
    expect(container.querySelectorAll(".due")).toHaveLength(1);
  });
});

describe("the setup", () => {
  const rule = {
    label: "Winding temperature",
    dimension: "temperature",
    units: ["degC", "degF"],
    unit: "degC",
    help: "",
  };
  const field = (more: Parameters<typeof standIn>[0] = {}) => {
    const put = vi.fn();
    const onCommit = vi.fn();
    const tools = standIn({
      rules: { winding: rule },
      symbols: { degC: "°C", degF: "°F" },
      put,
      onCommit,
      ...more,
    });
    render(
      <ToolsGiven value={tools}>
        <SetupField name="winding" label="winding" pencil={false} />
      </ToolsGiven>,
    );
    return { put, onCommit };
  };

  it("types in pencil and commits with Enter or on leaving", () => {
    const { put, onCommit } = field();
    fireEvent.change(screen.getByLabelText("winding"), { target: { value: "22" } });
    expect(put).toHaveBeenCalledWith("winding", { text: "22", unit: "degC" });
    fireEvent.keyDown(screen.getByLabelText("winding"), { key: "Enter" });
    fireEvent.blur(screen.getByLabelText("winding"));
    expect(onCommit.mock.calls).toEqual([["winding"], ["winding"]]);
  });
  it("switches its unit in place and keeps the text", () => {
    const { put } = field({ entered: () => ({ text: "22", unit: "degC" }) });
    fireEvent.change(screen.getByLabelText("winding, unit"), { target: { value: "degF" } });
    expect(put).toHaveBeenCalledWith("winding", { text: "22", unit: "degF" });
  });
  it("takes the person's own unit", () => {
    field({ unitOf: () => "degF" });
    expect(screen.getByLabelText<HTMLSelectElement>("winding, unit").value).toBe("degF");
  });
  it("marks a figure that cannot be", () => {
    const problems = [{ code: "too_high", field: "winding", value: "400", message: "no", right: "" }];
    field({ answer: { problems, ghosts: [] } as never, entered: () => ({ text: "400", unit: "degC" }) });
    expect(screen.getByLabelText("winding").getAttribute("aria-invalid")).toBe("true");
  });
  it("leaves the phone's own keyboard alone where ours is docked", () => {
    field({ narrow: true });
    expect(screen.getByLabelText("winding").getAttribute("inputmode")).toBe("none");
  });
  it("says the state as a sentence and asks for the drive only where one stands", () => {
    const onSay = vi.fn();
    const { rerender } = render(<SetupSentence body={{}} control="starter" may onSay={onSay} />);
    fireEvent.change(screen.getByLabelText("Links"), { target: { value: "out" } });
    fireEvent.click(screen.getByLabelText(/Surge arresters/));
    expect(onSay.mock.calls).toEqual([[{ links: "out" }], [{ arresters_off: true }]]);
    expect(screen.queryByLabelText(/disconnected at the motor/)).toBeNull();
    rerender(<SetupSentence body={{ drive_off: true }} control="soft_starter" may={false} onSay={onSay} />);
    expect(screen.getByLabelText<HTMLInputElement>(/Soft starter output disconnected/).checked).toBe(true);
    expect(screen.getByLabelText("Links")).toHaveProperty("disabled", true);
  });
  it("draws where the leads stand: apart, one coil; a drive crossed off", () => {
    const { container, rerender } = render(
      <WindingDrawing width={560} body={{ phases: "apart" }} leg="L2" live control="drive" />,
    );
    expect(container.querySelectorAll(".coil.hot")).toHaveLength(1);
    expect(container.querySelector(".struckmark")).toBeNull();
    rerender(
      <WindingDrawing
        width={560}
        body={{ phases: "together", drive_off: true, test_point: "starter" }}
        leg="all"
        live={false}
        control="drive"
      />,
    );
    expect(container.querySelectorAll(".coil.hot")).toHaveLength(3);
    expect(container.querySelector(".struckmark")).not.toBeNull();
    expect(container.textContent).toContain("drive, disconnected");
    expect(container.textContent).toContain("cable");
  });
});
