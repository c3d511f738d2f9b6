import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import api from "../../../../docs/openapi.json";
import { standIn, ToolsGiven } from "../../safety";
import { ClockFace, StandHere } from "./clock";
import { carried, entriesOf, feetFrom, fieldsOf, hasFigures, held, order, rings, type Body } from "./logic";
import { PlanBoard } from "./PlanBoard";
import { ShaftDrawing } from "./shafts";
import { Tighten } from "./Tighten";

afterEach(cleanup);
// As the core describes it.
const FIELDS = fieldsOf({ $defs: { PassRead: api.components.schemas.PassRead } });

const q = (shown: string) => ({
  value: Number.parseFloat(shown),
  unit: "mm",
  bound: "exact" as const,
  shown: `${shown} mm`,
  figure: shown,
  error: "",
  symbol: "mm",
});
describe("the clock", () => {
  it("goes round the outer ring, then the inner one, and leaves out the hour where a dial stands at zero", () => {
    expect(order("straightedge")).toEqual([
      "step_12",
      "step_3",
      "step_6",
      "step_9",
      "gap_12",
      "gap_3",
      "gap_6",
      "gap_9",
    ]);
    expect(order("rim_face")).toEqual(["rim_3", "rim_6", "rim_9", "face_3", "face_6", "face_9"]);
    expect(order("laser")).toEqual(["offset_v", "angle_v", "offset_h", "angle_h"]);
    expect(rings("reverse").inner).toBe("back");
  });
  it("draws a field at every hour, and a nought at 12 for a dial", () => {
    const { container } = render(
      <ToolsGiven value={standIn()}>
        <ClockFace method="rim_face" />
      </ToolsGiven>,
    );
    expect(screen.getAllByRole("textbox").length).toBe(6);
    expect([...container.querySelectorAll(".zero")].map((z) => z.textContent)).toEqual(["0", "0"]);
  });
  it("keeps the set's own measures and none of the readings", () => {
    const last = {
      method: "rim_face",
      face_diameter: { text: "150", unit: "mm" },
      rim_3: { text: "0.1", unit: "mm" },
      note: "dry",
    };
    expect(carried(last, FIELDS)).toEqual({ method: "rim_face", face_diameter: { text: "150", unit: "mm" } });
    expect(hasFigures(carried(last, FIELDS))).toBe(false);
    expect(hasFigures({ method: "laser", angle_h: { text: "0", unit: "" } })).toBe(true);
  });
});

const entry = (body: Body, i: number) => ({
  uuid: `entry-${i}`,
  taken_at: new Date(1e12 + i * 1000).toISOString(),
  device: "d",
  body,
});
describe("a visit", () => {
  const mm = (text: string) => ({ text, unit: "mm" });
  it("parts what is typed into what belongs to the set, what was looked at, the pass and the coupling", () => {
    const made = entriesOf(
      {
        x_front: mm("200"),
        soft_front_left: mm("0.02"),
        step_12: mm("0.1"),
        taken: "as_found",
        guard_on: true,
        gap_12: null,
      },
      { x_front: mm("200") },
      FIELDS,
    );
    expect(made.map((b) => b.kind)).toEqual(["before", "fit", "pass"]);
    expect(made[2]).toEqual({ kind: "pass", step_12: mm("0.1"), taken: "as_found" });
    expect(entriesOf({ note: "dry" }, {}, FIELDS)).toEqual([]);
  });
  it("holds the newest word on every measure and pack, and forgets what was taken back", () => {
    const entries = [
      entry({ kind: "measures", x_rear: mm("500"), pack_front_left: "none" }, 0),
      entry({ step_12: mm("0.1") }, 1),
      entry({ kind: "moved", pack_front_left: "0.5 mm" }, 2),
    ];
    expect(held(entries, FIELDS)).toEqual({ x_rear: mm("500"), pack_front_left: "0.5 mm" });
    expect(held([...entries, entry({ kind: "undo", undoes: "entry-2" }, 3)], FIELDS).pack_front_left).toBe(
      "none",
    );
  });
});

describe("standing elsewhere", () => {
  it("turns the list of feet and the clock", () => {
    expect(feetFrom("behind")).toEqual(["front_left", "front_right", "rear_left", "rear_right"]);
    expect(feetFrom("pump").slice(2)).toEqual(["front_right", "front_left"]);
    expect(feetFrom("left").slice(2)).toEqual(["front_left", "rear_left"]);
    expect(feetFrom("right").slice(2)).toEqual(["rear_right", "front_right"]);
    const at = (stand: "behind" | "pump") => {
      cleanup();
      const { container } = render(
        <ToolsGiven value={standIn()}>
          <ClockFace method="straightedge" stand={stand} />
        </ToolsGiven>,
      );
      return (container.querySelector("#f-step_3")?.closest(".onclock") as HTMLElement).style.left;
    };
    expect(parseFloat(at("behind"))).toBeGreaterThan(50);
    expect(parseFloat(at("pump"))).toBeLessThan(50);
  });
  it("is chosen on a small drawing", () => {
    const chosen = vi.fn();
    render(<StandHere stand="behind" onStand={chosen} />);
    fireEvent.click(screen.getByRole("radio", { name: "right of the motor" }));
    expect(chosen).toHaveBeenCalledWith("right");
    expect(screen.getByText("you stand behind the motor")).toBeTruthy();
  });
});

describe("the plan", () => {
  const foot = (name: string, out: string[], into: string[]) => ({
    foot: name,
    title: name.replace("_", " "),
    asks: q("0.2"),
    pieces: [
      { size: q("0.5"), drawn: 0.5, state: "stays" as const },
      ...into.map((s) => ({ size: q(s), drawn: Number(s), state: "in" as const })),
      ...out.map((s) => ({ size: q(s), drawn: Number(s), state: "out" as const })),
    ],
    take_out: out.map(q),
    put_in: into.map(q),
    total: q("0.7"),
    pack: "0.5 + 0.2 mm",
  });
  const choice = {
    feet: ["front_left", "front_right", "rear_left", "rear_right"].map((n) => foot(n, ["0.1"], ["0.25"])),
    leaves_offset: q("0.01"),
    leaves_angle: q("0"),
    words: ["Within half the tolerance."],
  };
  const plan = {
    choice,
    others: [choice],
    edited: null,
    push_front: null,
    push_rear: null,
    front_move: null,
    rear_move: null,
    van: "Van 2",
    says: [],
    waits: [],
  };
  it("reads take out and put in for every foot, the near row last, and lays what is shown", () => {
    const laid = vi.fn();
    const tried = vi.fn();
    const { container } = render(
      <PlanBoard plan={plan} stand="pump" tries={{}} may pushed={null} onTry={tried} onLaid={laid} />,
    );
    expect([...container.querySelectorAll("[data-foot]")].map((f) => f.getAttribute("data-foot"))).toEqual(
      feetFrom("pump"),
    );
    expect(container.querySelectorAll(".piece.in").length).toBe(4);
    expect(screen.getAllByText("take out").length).toBe(4);
    fireEvent.click(screen.getByRole("button", { name: "Confirm shims fitted as planned" }));
    expect(laid).toHaveBeenCalledWith(choice.feet);
    fireEvent.click(screen.getAllByRole("button", { name: "Change" })[0]!);
    fireEvent.change(screen.getByLabelText("rear right, what-if"), { target: { value: "0.5 mm" } });
    expect(tried).toHaveBeenCalledWith({ pack_rear_right: "0.5 mm" });
  });
  it("draws bolts in their order", () => {
    render(
      <Tighten
        bolts={{
          order: [1, 3, 2, 4],
          steps: ["20", "35", "50"].map((n) => ({ ...q(n), shown: `${n} N·m` })),
        }}
        may
        done={false}
        onDone={() => undefined}
      />,
    );
    expect(
      screen.getByRole("img", { name: "Order: 1 at place 1, 2 at place 3, 3 at place 2, 4 at place 4" }),
    ).toBeTruthy();
    expect(screen.getByText("20 N·m › 35 N·m › 50 N·m")).toBeTruthy();
  });
});

describe("the shafts", () => {
  const points = [
    { name: "coupling", x: 0, y: 0.6, says: { ...q("0"), shown: "0.10 mm" }, move: null },
    { name: "front", x: 0.4, y: 0.5, says: { ...q("0"), shown: "0 mm" }, move: "no move" },
    { name: "rear", x: 1, y: 0.3, says: { ...q("0"), shown: "+0.30 mm" }, move: "raise 0.30 mm" },
  ];
  it("tilt with the pose and say what each foot asks for, and how much is exaggerated", () => {
    const { container } = render(
      <ShaftDrawing
        shaft={{ view: "side", known: true, times: 200, target: 0.5, points }}
        title="Side view"
      />,
    );
    expect(screen.getByRole("img", { name: "Side view: 0.10 mm at the coupling" })).toBeTruthy();
    expect(screen.getByText("drawn ×200")).toBeTruthy();
    expect(screen.getByText("raise 0.30 mm")).toBeTruthy();
    const tilt = Number(
      /rotate\(([-\d.]+)\)/.exec(container.querySelector(".motor g")?.getAttribute("transform") ?? "")?.[1],
    );
    expect(tilt).toBeGreaterThan(0); // the tail is low: on paper y grows downwards
    expect(container.querySelector(".target")).toBeNull();
  });
  it("keep the drawn motor between the words over it and under it, however it lies", () => {
    const numbers = (text: string | null | undefined) => (text?.match(/-?[\d.]+/g) ?? []).map(Number);
    for (const front of [0.1, 0.4, 0.95])
      for (const [atCoupling, atRear] of [
        [1, -1],
        [-1, 1],
        [1, 1],
        [-1, -1],
        [0, 1],
      ] as const) {
        const y = (x: number) => 0.5 + (atCoupling + (atRear - atCoupling) * x) / 2.4;
        const lying = points.map((p) => {
          const x = p.name === "front" ? front : p.x;
          return { ...p, x, y: y(x) };
        });
        const { container } = render(
          <ShaftDrawing
            shaft={{ view: "side", known: true, times: 9, target: 0.5, points: lying }}
            title="Side view"
          />,
        );
        const body = container.querySelectorAll(".motor g")[1];
        const [, cy = NaN, tilt = NaN] = numbers(body?.getAttribute("transform"));
        const box = numbers(body?.querySelector("path")?.getAttribute("d"));
        const a = (tilt * Math.PI) / 180;
        const [left = NaN, top = NaN, right = NaN, bottom = NaN] = box;
        const reached = [left, right].flatMap((x) =>
          [top, bottom].map((v) => cy + x * Math.sin(a) + v * Math.cos(a)),
        );
        const lines = [...container.querySelectorAll("text.ask, text.title")].map((e) =>
          Number(e.getAttribute("y")),
        );
        const over = Math.max(...lines.filter((v) => v < 80));
        const under = Math.min(...lines.filter((v) => v > 80));
        expect(Math.min(...reached)).toBeGreaterThan(over + 3); // what hangs under the line
        expect(Math.max(...reached)).toBeLessThan(under - 11); // how high a letter stands
        cleanup();
      }
  });
  it("show a plane that was not read as unknown, and a cold target where there is one", () => {
    const { container, rerender } = render(
      <ShaftDrawing
        shaft={{ view: "top", known: false, times: 1, target: 0.5, points: [] }}
        title="Top view"
      />,
    );
    expect(screen.getByText("not read yet")).toBeTruthy();
    rerender(
      <ShaftDrawing
        shaft={{ view: "side", known: true, times: 10, target: 0.6, points }}
        title="Side view"
      />,
    );
    expect(container.querySelector(".target")).not.toBeNull();
  });
});
