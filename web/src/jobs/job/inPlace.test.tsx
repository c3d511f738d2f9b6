import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { MemoryRouter } from "react-router";
import { afterEach, describe, expect, it, vi } from "vitest";
import { useWithin } from "../../logbook";
import { InPlace } from "./InPlace";
import type { Step } from "./useJob";

// The bench itself has its own tests; here it only says what its save said.
vi.mock("../../safety", () => ({
  definedBench: (name: string) => (name === "bolts" ? { name } : null),
  BenchPage: () => {
    const within = useWithin();
    return (
      <button type="button" onClick={() => within?.({ saved: 9, differs: true })}>
        Save record
      </button>
    );
  },
}));
afterEach(cleanup);

const at = (bench: string) => {
  const back = vi.fn();
  const step = { n: 4, title: "Tighten the cover" } as Step;
  render(
    <QueryClientProvider client={new QueryClient()}>
      <MemoryRouter>
        <InPlace setId={7} step={step} bench={bench} back={back} />
      </MemoryRouter>
    </QueryClientProvider>,
  );
  return back;
};

describe("a bench in the place of its step", () => {
  it("hands back what its save said: the record, and that it was judged otherwise", () => {
    const back = at("bolts");
    fireEvent.click(screen.getByText("Save record"));
    expect(back).toHaveBeenCalledWith({ saved: 9, differs: true });
  });
  it("is left without a word by its button, and names the step it is for", () => {
    const back = at("bolts");
    expect(screen.getByLabelText("For step 4").textContent).toContain("Tighten the cover");
    fireEvent.click(screen.getByText("Back to step 4"));
    expect(back.mock.calls).toEqual([[undefined]]);
  });
  it("is nothing where nobody knows such a bench", () => {
    at("nothing");
    expect(screen.queryByRole("button")).toBeNull();
  });
});
