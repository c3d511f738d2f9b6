import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import { FigureInput, type FigureInputProps } from "./FigureInput";

afterEach(cleanup);
const field = (more: Partial<FigureInputProps> = {}) => {
  const onChange = vi.fn();
  render(<FigureInput id="f-x" label="Current L1" value={null} unit="A" onChange={onChange} {...more} />);
  return onChange;
};
const input = () => screen.getByLabelText<HTMLInputElement>("Current L1");

describe("the one field for figures", () => {
  it.each([">10 G", "OL", "flush", "0,09 in", "31.9"])("takes %s as it is typed", (text) => {
    const onChange = field();
    fireEvent.change(input(), { target: { value: text } });
    expect(onChange).toHaveBeenCalledWith({ text, unit: "A" });
    expect(input().type).toBe("text");
  });
  it("is nothing when it is emptied", () => {
    const onChange = field({ value: { text: "3", unit: "A" } });
    fireEvent.change(input(), { target: { value: "" } });
    expect(onChange).toHaveBeenCalledWith(null);
  });
  it("offers a choice of units only where there is one, and to whoever may write", () => {
    field({ units: ["A"] });
    expect(screen.queryByRole("combobox")).toBeNull();
    cleanup();
    field({ units: ["A", "mA"], readOnly: true });
    expect(screen.queryByRole("combobox")).toBeNull();
    cleanup();
    const onUnit = vi.fn();
    const onChange = field({ units: ["A", "mA"], onUnit, value: { text: "3", unit: "A" } });
    fireEvent.change(screen.getByRole("combobox"), { target: { value: "mA" } });
    expect([onUnit.mock.calls, onChange.mock.calls]).toEqual([[["mA"]], []]);
  });
  it("goes on with Enter, not with Ctrl and Enter, which put it on record", () => {
    const [onNext, onCommit] = [vi.fn(), vi.fn()];
    field({ onNext, onCommit });
    fireEvent.keyDown(input(), { key: "Enter", ctrlKey: true });
    expect(onNext).not.toHaveBeenCalled();
    fireEvent.keyDown(input(), { key: "Enter" });
    expect([onNext.mock.calls.length, onCommit.mock.calls.length]).toEqual([1, 1]);
  });
  it("keeps the device's keyboard away where ours is docked", () => {
    field({ keypad: true, refused: true });
    expect(input().getAttribute("inputmode")).toBe("none");
    expect(input().getAttribute("aria-invalid")).toBe("true");
  });
});
