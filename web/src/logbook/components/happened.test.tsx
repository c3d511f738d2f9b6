import { cleanup, fireEvent, render, screen, waitFor } from "@testing-library/react";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { afterEach, describe, expect, it, vi } from "vitest";
import { Happened } from "./Happened";

let today = "2026-03-02T09:00:00.000Z";
const sent: { at: string; note: string }[] = [];
vi.mock("../../base/session", async (real) => ({
  ...(await real<object>()),
  useMe: () => ({ username: "tia", locale: "en-GB" }),
  useSession: () => ({ now: () => new Date(today) }),
}));
vi.mock("../../base/outbox", async (real) => ({
  ...(await real<object>()),
  outbox: {
    write: (...args: unknown[]) => {
      sent.push(args[2] as { at: string; note: string });
      return Promise.resolve({});
    },
  },
}));
vi.mock("../../plant", () => ({
  useKinds: () => ({ data: { events: [{ id: "flood", title: "Flooded" }] } }),
}));
afterEach(() => {
  cleanup();
  localStorage.clear();
  sent.length = 0;
});

const show = () => {
  const view = render(
    <QueryClientProvider client={new QueryClient()}>
      <Happened setId={7} tag="A-1" zone="UTC" />
    </QueryClientProvider>,
  );
  fireEvent.click(screen.getByRole("button", { name: /Add event \(/ }));
  return view;
};

describe("Add event", () => {
  it("is of the moment it is sent while nobody touched its time, though it was begun a year ago", async () => {
    const first = show();
    fireEvent.change(screen.getByLabelText("Event"), { target: { value: "flood" } });
    fireEvent.change(screen.getByLabelText("What happened"), { target: { value: "wet to the terminals" } });
    first.unmount();
    today = "2027-03-05T10:30:00.000Z";
    show();
    expect(screen.getByLabelText("What happened")).toHaveProperty("value", "wet to the terminals");
    expect(screen.getByLabelText("Date and time (UTC)")).toHaveProperty("value", "2027-03-05T10:30");
    fireEvent.click(screen.getByRole("button", { name: "Add event" }));
    await waitFor(() =>
      expect(sent.map((s) => [s.at, s.note])).toEqual([["2027-03-05T10:30:00.000Z", "wet to the terminals"]]),
    );
  });
  it("is of the time that was said, when one was", async () => {
    show();
    fireEvent.change(screen.getByLabelText("What happened"), { target: { value: "wet" } });
    fireEvent.change(screen.getByLabelText("Date and time (UTC)"), { target: { value: "2027-03-01T08:00" } });
    fireEvent.click(screen.getByRole("button", { name: "Add event" }));
    await waitFor(() => expect(sent[0]?.at).toBe("2027-03-01T08:00:00.000Z"));
  });
});
