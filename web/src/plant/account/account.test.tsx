import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, fireEvent, render, screen, waitFor } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import { ApiError } from "../../base";
import type { Site } from "../queries";
import { Machine } from "./Machine";
import { OwnSignIn } from "./OwnSignIn";
import { PersonSignIn } from "./PersonSignIn";
import { Tokens } from "./Tokens";

const base = vi.hoisted(() => ({
  me: { username: "tia", full_name: "Tia", must_change: false, locale: "en-GB" },
  send: vi.fn(),
  renewed: vi.fn(),
  data: undefined as unknown,
}));
vi.mock("../../base", async (real) => ({
  ...(await real<object>()),
  useMe: () => base.me,
  useSession: () => ({ renewed: base.renewed }),
  useGet: () => ({ data: base.data, error: null, refetch: () => undefined }),
  send: base.send,
  renew: () => Promise.resolve(),
}));
afterEach(() => {
  cleanup();
  base.send.mockReset();
  base.me.must_change = false;
});
const site = { id: 3, time_zone: "UTC" } as Site;
const shown = (what: React.ReactNode) =>
  render(<QueryClientProvider client={new QueryClient()}>{what}</QueryClientProvider>);
const type = (label: RegExp, value: string) =>
  fireEvent.change(screen.getByLabelText(label), { target: { value } });

describe("one's own sign-in", () => {
  it("sends both passwords once and forgets them", async () => {
    base.send.mockResolvedValue({ me: null });
    shown(<OwnSignIn />);
    type(/Password now/, "old-one");
    type(/New password/, "new-one-12");
    fireEvent.click(screen.getByText("Change password"));
    expect(await screen.findByText(/Every other session of yours has ended/)).toBeTruthy();
    expect(base.send).toHaveBeenCalledWith("POST", "/api/v1/me/password", {
      old: "old-one",
      new: "new-one-12",
    });
    expect(base.renewed).toHaveBeenCalledOnce();
    expect((screen.getByLabelText(/Password now/) as HTMLInputElement).value).toBe("");
  });
  it("says at its field what is wrong, and keeps what was typed", async () => {
    const problem = { code: "x", field: "old", value: "", message: "This is not your password now." };
    base.send.mockRejectedValue(new ApiError(422, "x", "no", [problem as never]));
    shown(<OwnSignIn />);
    type(/Password now/, "old-one");
    type(/New password/, "new-one-12");
    fireEvent.click(screen.getByText("Change password"));
    expect(await screen.findByText("This is not your password now.")).toBeTruthy();
    expect((screen.getByLabelText(/New password/) as HTMLInputElement).value).toBe("new-one-12");
  });
  it("made by an admin is changed and nothing else", () => {
    base.me.must_change = true;
    shown(<OwnSignIn />);
    expect(screen.getByText("Choose your own password")).toBeTruthy();
    expect(screen.queryByText("Sign out everywhere else")).toBeNull();
  });
});

describe("somebody's sign-in", () => {
  const person = { username: "jun", may_sign_in: true, sessions: 2, must_change: false } as never;
  it("is reset to a password that is shown once", async () => {
    base.send.mockResolvedValue({ username: "jun", password: "once-only-77" });
    shown(<PersonSignIn site={site} person={person} />);
    expect(screen.getByText(/open, 2 sessions/)).toBeTruthy();
    fireEvent.click(screen.getByText("Reset password"));
    expect(await screen.findByText("once-only-77")).toBeTruthy();
    base.send.mockResolvedValue({ n: 2 });
    fireEvent.click(screen.getByText("End sessions"));
    expect(await screen.findByText(/Sessions ended: 2/)).toBeTruthy();
    expect(screen.queryByText("once-only-77")).toBeNull();
  });
  it("says why it was not done", async () => {
    base.send.mockRejectedValue(new ApiError(409, "works_elsewhere", "jun works elsewhere too."));
    shown(<PersonSignIn site={site} person={person} />);
    fireEvent.click(screen.getByText("Take sign-in away"));
    expect(await screen.findByText(/works elsewhere too/)).toBeTruthy();
    expect(base.send.mock.calls[0]?.[2]).toEqual({ active: false });
  });
});

describe("tokens", () => {
  const token = {
    id: 9,
    title: "Logger",
    role: "viewer",
    by: "Ada",
    made_at: "",
    ended_at: null,
    used_at: null,
  };
  it("are made, shown once, and ended", async () => {
    base.data = [token];
    base.send.mockResolvedValue({ ...token, key: "hb_secret" });
    shown(<Tokens site={site} />);
    expect(screen.getByText("never used")).toBeTruthy();
    type(/What it is for/, "Scale");
    fireEvent.click(screen.getByText("Make token"));
    expect(await screen.findByText("hb_secret")).toBeTruthy();
    fireEvent.click(screen.getByText("End"));
    await waitFor(() => expect(base.send).toHaveBeenLastCalledWith("DELETE", "/api/v1/tokens/9"));
  });
  it("that there are none says what one is", () => {
    base.data = [];
    shown(<Tokens site={site} />);
    expect(screen.getByText(/in place of a sign-in/)).toBeTruthy();
  });
});

describe("the machine", () => {
  it("says what the newest backup is worth", () => {
    base.data = {
      verdict: "watch",
      says: "On this machine alone.",
      at: null,
      file: "",
      copied_to: "",
      free: "",
    };
    shown(<Machine site={site} />);
    expect(screen.getByTestId("backup").dataset.verdict).toBe("watch");
    expect(screen.getByText("On this machine alone.")).toBeTruthy();
  });
});
