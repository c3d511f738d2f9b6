import { cleanup, render, screen } from "@testing-library/react";
import { afterEach, describe, expect, it } from "vitest";
import { ClockFace, ShaftDrawing } from "./drawings";
import { carried, hasFigures, order, rings } from "./logic";

afterEach(cleanup);

describe("the clock", () => {
  it("goes round the outer ring, then the inner one, and leaves out the hour where a dial stands at zero", () => {
    expect(order("straightedge")).toEqual(["step_12", "step_3", "step_6", "step_9", "gap_12", "gap_3", "gap_6", "gap_9"]);
    expect(order("rim_face")).toEqual(["rim_3", "rim_6", "rim_9", "face_3", "face_6", "face_9"]);
    expect(order("laser")).toEqual(["offset_v", "angle_v", "offset_h", "angle_h"]);
    expect(rings("reverse").inner).toBe("back");
  });
  it("draws a field at every hour, and a nought at 12 for a dial", () => {
    const { container } = render(<ClockFace method="rim_face" field={(name) => <input aria-label={name} />} />);
    expect(screen.getAllByRole("textbox").length).toBe(6);
    expect([...container.querySelectorAll(".zero")].map((z) => z.textContent)).toEqual(["0", "0"]);
  });
  it("keeps the set's own measures and none of the readings", () => {
    const last = { method: "rim_face", face_diameter: { text: "150", unit: "mm" }, rim_3: { text: "0.1", unit: "mm" }, note: "dry" };
    expect(carried(last)).toEqual({ method: "rim_face", face_diameter: { text: "150", unit: "mm" } });
    expect(hasFigures(carried(last))).toBe(false);
    expect(hasFigures({ method: "laser", angle_h: { text: "0", unit: "" } })).toBe(true);
  });
});

describe("the shafts", () => {
  const points = [{ name: "coupling", x: 0, y: 0.6, shown: "0.10 mm" }, { name: "front", x: 0.4, y: 0.5, shown: "0 mm" }, { name: "rear", x: 1, y: 0.3, shown: "+0.30 mm" }];
  it("tilt with the pose and say what each foot asks for, and how much is exaggerated", () => {
    const { container } = render(<ShaftDrawing shaft={{ view: "side", known: true, times: 200, target: 0.5, points }} title="From the side" ask="up" />);
    expect(screen.getByRole("img", { name: "From the side: 0.10 mm at the coupling" })).toBeTruthy();
    expect(screen.getByText("drawn 200 times")).toBeTruthy();
    expect(screen.getByText("+0.30 mm up")).toBeTruthy();
    const tilt = Number(/rotate\(([-\d.]+)\)/.exec(container.querySelector(".motor g")?.getAttribute("transform") ?? "")?.[1]);
    expect(tilt).toBeGreaterThan(0); // the tail is low: on paper y grows downwards
    expect(container.querySelector(".target")).toBeNull();
  });
  it("show a plane that was not read as unknown, and a cold target where there is one", () => {
    const { container, rerender } = render(<ShaftDrawing shaft={{ view: "top", known: false, times: 1, target: 0.5, points: [] }} title="From above" ask="right" />);
    expect(screen.getByText("this plane is not read")).toBeTruthy();
    rerender(<ShaftDrawing shaft={{ view: "side", known: true, times: 10, target: 0.6, points }} title="From the side" ask="up" />);
    expect(container.querySelector(".target")).not.toBeNull();
  });
});
