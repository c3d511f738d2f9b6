import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { useState } from "react";
import { afterEach, describe, expect, it } from "vitest";
import { RadioGroup } from "./RadioGroup";

afterEach(cleanup);
const WORDS = { wet: "wet rotor", dry: "dry", none: "none of them" };
type Kind = keyof typeof WORDS;

function Group({ first = null }: { first?: Kind | null }) {
  const [value, choose] = useState<Kind | null>(first);
  const options: Kind[] = ["wet", "dry", "none"];
  return <RadioGroup label="Kind" options={options} value={value} onChoose={choose} says={(o) => WORDS[o]} />;
}
const radio = (name: string) => screen.getByRole("radio", { name });
const chosen = () => screen.getAllByRole("radio").map((r) => r.getAttribute("aria-checked") === "true");
const press = (key: string) => fireEvent.keyDown(document.activeElement ?? document.body, { key });

describe("one of a few", () => {
  it("is one stop of the Tab key: the one chosen, or the first", () => {
    const { unmount } = render(<Group first="dry" />);
    const stops = () => screen.getAllByRole("radio").map((r) => r.tabIndex);
    expect(stops()).toEqual([-1, 0, -1]);
    unmount();
    render(<Group />);
    expect(stops()).toEqual([0, -1, -1]);
    expect(chosen()).toEqual([false, false, false]);
  });
  it("goes round with the arrows, and the finger goes along", () => {
    render(<Group first="dry" />);
    radio("dry").focus();
    press("ArrowRight");
    expect(chosen()).toEqual([false, false, true]);
    press("ArrowDown");
    expect(chosen()).toEqual([true, false, false]);
    expect(document.activeElement).toBe(radio("wet rotor"));
    press("ArrowLeft");
    press("Home");
    expect(chosen()).toEqual([true, false, false]);
    press("End");
    expect(document.activeElement).toBe(radio("none of them"));
  });
  it("begins with the first where nothing is chosen, and leaves other keys alone", () => {
    render(<Group />);
    radio("wet rotor").focus();
    press("a");
    expect(chosen()).toEqual([false, false, false]);
    press("ArrowRight");
    expect(chosen()).toEqual([true, false, false]);
    fireEvent.click(radio("dry"));
    expect(chosen()).toEqual([false, true, false]);
  });
});
