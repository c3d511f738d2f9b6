import { QueryClient, QueryClientProvider, useQuery } from "@tanstack/react-query";
import { act, cleanup, fireEvent, render, screen } from "@testing-library/react";
import { useEffect } from "react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { Act } from "./components/Act";
import { awaited, Settled } from "./components/Settled";

afterEach(cleanup);

describe("a page", () => {
  let answer: (words: string) => void;
  let verdict: () => void;
  beforeEach(() => {
    vi.useFakeTimers();
  });
  afterEach(() => {
    vi.useRealTimers();
  });
  function Page({ place }: { place: string }) {
    const { data } = useQuery({
      queryKey: [place],
      queryFn: () => new Promise<string>((done) => (answer = done)),
    });
    useEffect(() => {
      verdict = awaited();
      return verdict;
    }, [place]);
    return <p>{data ?? "empty"}</p>;
  }
  const show = (place: string) => (
    <QueryClientProvider client={client}>
      <Settled place={place}>
        <Page place={place} />
      </Settled>
    </QueryClientProvider>
  );
  let client: QueryClient;
  beforeEach(() => {
    client = new QueryClient();
  });
  const pass = (ms: number) => act(() => vi.advanceTimersByTimeAsync(ms));
  const hidden = () => document.querySelector(".unsettled") !== null;

  it("is seen once its reads and its first verdict are there, and not before", async () => {
    render(show("a"));
    await pass(100);
    expect(hidden()).toBe(true);
    answer("whole");
    await pass(100);
    expect(screen.getByText("whole")).toBeTruthy();
    expect(hidden()).toBe(true);
    verdict();
    await pass(29);
    expect(hidden()).toBe(true);
    await pass(5);
    expect(hidden()).toBe(false);
  });
  it("is seen as it is when that takes too long, and a page that was seen is not hidden again", async () => {
    render(show("a"));
    await pass(799);
    expect(hidden()).toBe(true);
    await pass(2);
    expect(hidden()).toBe(false);
    answer("late");
    await pass(100);
    void client.refetchQueries();
    await pass(10);
    expect(hidden()).toBe(false);
  });
  it("begins anew at another place", async () => {
    const { rerender } = render(show("a"));
    await pass(801);
    rerender(show("b"));
    expect(hidden()).toBe(true);
    answer("b");
    verdict();
    await pass(100);
    expect(hidden()).toBe(false);
  });
});

describe("a button", () => {
  it("says what it waits for, and cannot be pressed until then", () => {
    const press = vi.fn();
    const { rerender } = render(
      <Act waits="Enter a reading first." onClick={press}>
        Save
      </Act>,
    );
    const button = screen.getByRole("button", { name: "Save", description: "Enter a reading first." });
    fireEvent.click(button);
    expect(press).not.toHaveBeenCalled();
    rerender(
      <Act waits={false} onClick={press}>
        Save
      </Act>,
    );
    fireEvent.click(screen.getByRole("button", { name: "Save", description: "" }));
    expect(press).toHaveBeenCalledOnce();
    expect(screen.queryByText("Enter a reading first.")).toBeNull();
  });
  it("says it once where a line says it already", () => {
    render(
      <>
        <p id="why">Save the list first.</p>
        <Act waits="list" saidBy="why">
          Go
        </Act>
      </>,
    );
    expect(screen.getByRole("button", { description: "Save the list first." })).toBeTruthy();
    expect(screen.queryByText("list")).toBeNull();
  });
});
