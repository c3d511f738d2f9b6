import { act, cleanup, fireEvent, render, screen } from "@testing-library/react";
import { HotkeysProvider } from "react-hotkeys-hook";
import { MemoryRouter } from "react-router";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { outbox, type Parcel, type Refusal } from "../outbox";
import { Shell } from "./Shell";

const session = vi.hoisted(() => ({
  me: null as object | null,
  expired: false,
  connected: true,
  full: false,
  setPrefs: vi.fn(async () => undefined),
  signOut: vi.fn(async () => undefined),
}));
vi.mock("../session", () => ({ useSession: () => session, useMe: () => session.me }));
vi.mock("./SignIn", () => ({
  SignInHere: ({ again }: { again: string }) => <p>sign in again as {again}</p>,
}));
vi.mock("../tablet", () => ({ SHOW_AGAIN: async () => () => <p>show your PIN</p> }));
type Hear = (waiting: Parcel[], refused: Refusal[], asks: Parcel[]) => void;
let hear: Hear;
const aside = vi.spyOn(outbox, "putAside").mockResolvedValue(undefined);
const ME = { username: "tia", full_name: "Tia Sandoval", sheet: "light", hand: "right", locale: "en-GB" };

beforeEach(() => {
  Object.assign(session, { me: ME, expired: false, connected: true, full: false });
  session.setPrefs.mockClear();
  session.signOut.mockReset().mockResolvedValue(undefined);
  aside.mockClear();
  vi.spyOn(outbox, "onChange").mockImplementation((watch) => {
    hear = watch as Hear;
    return () => undefined;
  });
});
afterEach(cleanup);

function shown() {
  const find = vi.fn();
  render(
    <HotkeysProvider>
      <MemoryRouter initialEntries={["/stores"]}>
        <Shell
          places={[
            { to: "/", word: "Plant" },
            { to: "/stores", word: "Stores" },
          ]}
          find={find}
        >
          <p>the page</p>
        </Shell>
      </MemoryRouter>
    </HotkeysProvider>,
  );
  return { find };
}
const press = (name: string) => fireEvent.click(screen.getByRole("button", { name }));
const parcel = (label: string) => ({ id: label, label }) as Parcel;

describe("the frame of every page", () => {
  it("says where one is, and finds", () => {
    const { find } = shown();
    expect(screen.getByRole("link", { name: "Stores" }).getAttribute("aria-current")).toBe("page");
    expect(screen.getByText("the page")).toBeTruthy();
    press("Find pump set /");
    expect(find).toHaveBeenCalledOnce();
  });
  it("says what is being sent, and while nobody answers that nothing is lost", () => {
    shown();
    act(() => hear([parcel("C-1 running check")], [], []));
    expect(screen.getByText("Sending: C-1 running check")).toBeTruthy();
    cleanup();
    session.connected = false;
    shown();
    act(() => hear([parcel("C-1 running check")], [], []));
    expect(screen.getByText(/Nothing is lost: entries are stored on this device/)).toBeTruthy();
    expect(screen.queryByText(/^Sending/)).toBeNull();
  });
  it("says of a full disk that it is not saved", () => {
    session.full = true;
    shown();
    expect(screen.getByRole("alert").textContent).toContain("Not saved, kept here");
  });
  it("shows what was refused while nobody looked, with every word that was sent, until it is put aside", () => {
    shown();
    const body = {
      ...{ uuid: "u-1", set_id: 7, note: "warm", reason: "" },
      entries: [{ body: { kind: "reading", volts_12: { text: "401", unit: "V" }, low: { text: "" } } }],
    };
    const refusal = { id: "r-1", label: "C-1 running check", message: "The set was given away.", body };
    act(() => hear([], [refusal as unknown as Refusal], []));
    const strip = screen.getByTestId("not-taken");
    expect(strip.textContent).toContain("Not taken: C-1 running check. The set was given away.");
    expect(strip.querySelector("details")?.textContent).toBe("What was sentnote warm; volts 12 401 V");
    press("Seen, put it aside");
    expect(aside).toHaveBeenCalledWith("r-1");
  });
  it("asks whoever was signed in to come in again, over the page as it is", () => {
    session.expired = true;
    shown();
    const dialog = screen.getByRole("dialog", { name: "Session expired" });
    expect(dialog.textContent).toContain("sign in again as tia");
    expect(screen.getByText("the page")).toBeTruthy();
  });
  it("asks who holds the tablet while something waits for it, but not over an ended session", async () => {
    shown();
    act(() => hear([], [], [parcel("lock on")]));
    expect(await screen.findByText("show your PIN")).toBeTruthy();
    cleanup();
    session.expired = true;
    shown();
    act(() => hear([], [], [parcel("lock on")]));
    expect(screen.queryByText("show your PIN")).toBeNull();
  });
  it("says that somebody is signed in still where signing out was not heard", async () => {
    session.signOut.mockRejectedValueOnce(new Error("The server does not answer."));
    shown();
    press("Sign out");
    expect(
      await screen.findByText(/Still signed in as Tia Sandoval\. The server does not answer\./),
    ).toBeTruthy();
    press("Sign out");
    expect(screen.queryByText(/Still signed in/)).toBeNull();
  });
  it("offers to switch the person on a shared tablet alone", () => {
    shown();
    expect(screen.queryByRole("button", { name: "Switch person" })).toBeNull();
    cleanup();
    session.me = { ...ME, shared: true };
    shown();
    press("Switch person");
    expect(session.signOut).toHaveBeenCalledOnce();
  });
  it("turns sheet and hand over, and back", () => {
    shown();
    press("Dark mode");
    press("Switch keypad to left hand");
    expect(session.setPrefs.mock.calls).toEqual([[{ sheet: "night" }], [{ hand: "left" }]]);
    cleanup();
    session.me = { ...ME, sheet: "night", hand: "left" };
    shown();
    press("Light mode");
    press("Switch keypad to right hand");
    expect(session.setPrefs.mock.calls.slice(2)).toEqual([[{ sheet: "light" }], [{ hand: "right" }]]);
  });
  it("lists the keys that do something here", () => {
    shown();
    press("Keyboard shortcuts");
    const list = screen.getByRole("dialog", { name: "Keyboard shortcuts" });
    expect(list.textContent).toContain("/find a pump set");
    expect(list.textContent).toContain("?show keyboard shortcuts");
  });
});
