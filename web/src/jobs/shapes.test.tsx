import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import { Exploded, rows, Tray, windowOf, type Part } from "./Exploded";
import { Shape } from "./shapes";

// A desk: jsdom knows no screens.
vi.stubGlobal("matchMedia", () => ({
  matches: false,
  addEventListener: vi.fn(),
  removeEventListener: vi.fn(),
}));
afterEach(cleanup);
const part = (id: string, x: number, more: Partial<Part> = {}): Part => ({
  id,
  title: id,
  drawn: { shape: "box", strokes: [[0, -1, 1, -1, 1, 1]], x, w: 10, h: 5, y: 0 },
  ...more,
});

describe("a part drawn", () => {
  it("stands about its place, as wide and high as it is told", () => {
    const drawn = {
      shape: "s",
      strokes: [
        [0, -1, 1, -1],
        [0.5, 1],
      ],
      x: 50,
      w: 20,
      h: 10,
      y: 5,
    };
    const { container } = render(
      <svg>
        <Shape drawn={drawn} scale={2} mid={100} hatch="none" />
      </svg>,
    );
    expect(container.querySelector("path")?.getAttribute("d")).toBe("M80 88L120 88M100 136");
  });
});
describe("the window of a phone", () => {
  it("goes with the parts in the hand and never past the ends", () => {
    const parts = [part("a", 5, { hand: true }), part("b", 95)];
    expect(windowOf(parts, true)).toEqual([0, 52]);
    expect(windowOf([part("a", 5), part("b", 95, { hand: true })], true)).toEqual([48, 100]);
    expect(windowOf([part("a", 50, { hand: true })], true)).toEqual([24, 76]);
  });
  it("shows the whole line while nothing is in the hand", () => {
    expect(windowOf([part("a", 5)], true)).toEqual([0, 100]);
    expect(windowOf([part("a", 5, { hand: true })], false)).toEqual([0, 100]);
  });
});
describe("names", () => {
  it("that would touch stand on lines of their own", () => {
    const at = rows([part("first", 10), part("second", 12), part("third", 80)], 7.6);
    expect([at.get("first"), at.get("second"), at.get("third")]).toEqual([0, 1, 0]);
  });
});
describe("the drawing", () => {
  it("is tapped or keyed to say what a part is, and says which is off", () => {
    const chose = vi.fn();
    const parts = [part("spring", 30, { state: "off" }), part("seat", 60, { state: "renewed" })];
    render(<Exploded parts={parts} label="parts" chosen={null} onChoose={chose} />);
    fireEvent.click(screen.getByRole("button", { name: "spring, off" }));
    fireEvent.keyDown(screen.getByRole("button", { name: "seat, renewed" }), { key: " " });
    fireEvent.keyDown(screen.getByRole("button", { name: "seat, renewed" }), { key: "x" });
    expect(chose.mock.calls).toEqual([["spring"], ["seat"]]);
  });
  it("lays out what is off in the order it came off", () => {
    const parts = [part("late", 20, { laid: 2 }), part("first", 90, { laid: 1 }), part("on", 50)];
    render(<Tray parts={parts} />);
    expect(screen.getAllByRole("listitem").map((li) => li.textContent)).toEqual(["1 first", "2 late"]);
  });
  it("shows no tray while nothing is off", () => {
    const { container } = render(<Tray parts={[part("on", 50)]} />);
    expect(container.innerHTML).toBe("");
  });
});
