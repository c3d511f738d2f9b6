import { render, screen } from "@testing-library/react";
import { MemoryRouter } from "react-router";
import { describe, expect, it } from "vitest";
import { Differs } from "./Differs";

const shown = (said: Parameters<typeof Differs>[0]["said"]) =>
  render(<MemoryRouter>{<Differs said={said} />}</MemoryRouter>).container;

describe("a verdict that was judged otherwise than seen", () => {
  it("is told with its record", () => {
    shown({ saved: 31, differs: true });
    expect(screen.getByRole("status").textContent).toContain("the verdict differs from the one you saw");
    expect(screen.getByRole("link").getAttribute("href")).toBe("/records/31");
  });
  it("is not told where it was the same, or where nothing was put", () => {
    expect(shown({ saved: 31, differs: false }).textContent).toBe("");
    expect(shown(undefined).textContent).toBe("");
    expect(shown(null).textContent).toBe("");
  });
});
