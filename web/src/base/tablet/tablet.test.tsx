import { cleanup, fireEvent, render, screen, waitFor } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import { ApiError } from "../client";
import { outbox, type Parcel } from "../outbox";
import { isTablet, setTablet } from ".";
import { AtTablet } from "./AtTablet";
import { ShowAgain } from "./ShowAgain";

const held = vi.hoisted(() => ({
  send: vi.fn(),
  signIn: vi.fn(),
  renewed: vi.fn(),
  me: { full_name: "Tia Rook", pin: "set" },
}));
vi.mock("../client", async (real) => ({ ...(await real<object>()), send: held.send }));
vi.mock("../session", () => ({
  useSession: () => ({ me: held.me, signIn: held.signIn, renewed: held.renewed }),
}));
const store = new Map<string, string>();
vi.stubGlobal("localStorage", {
  getItem: (k: string) => store.get(k) ?? null,
  setItem: (k: string, v: string) => void store.set(k, v),
  removeItem: (k: string) => void store.delete(k),
});
afterEach(() => {
  cleanup();
  [held.send, held.signIn, held.renewed].forEach((f) => f.mockReset());
  held.me.pin = "set";
});
const here = (rests = false) => ({
  title: "Pump room",
  site: "Lagoon",
  people: [
    { username: "ada", full_name: "Ada Moss", rests: false },
    { username: "tia", full_name: "Tia Rook", rests },
  ],
});
const press = (name: string) => fireEvent.click(screen.getByRole("button", { name }));

describe("at a shared tablet", () => {
  it("takes a name from the rail and comes in by the keys", async () => {
    held.send.mockResolvedValue(here());
    held.signIn.mockResolvedValue(undefined);
    render(<AtTablet otherwise={() => undefined} />);
    fireEvent.click(await screen.findByRole("button", { name: "Tia Rook" }));
    for (const k of ["4", "8", "9", "backspace", "2"]) press(k);
    expect(screen.getByRole("button", { name: "Come in" })).toHaveProperty("disabled", true);
    press("7");
    press("Come in");
    await waitFor(() => expect(held.signIn).toHaveBeenCalledWith({ username: "tia", pin: "4827" }));
  });
  it("keeps the name and empties the PIN after a wrong one, and takes digits alone", async () => {
    held.send.mockResolvedValue(here());
    held.signIn.mockRejectedValue(new ApiError(401, "pin_wrong", "Wrong PIN."));
    render(<AtTablet otherwise={() => undefined} />);
    fireEvent.click(await screen.findByRole("button", { name: "Ada Moss" }));
    const field = screen.getByLabelText<HTMLInputElement>("PIN of Ada Moss");
    fireEvent.change(field, { target: { value: "12x3456789" } });
    expect(field.value).toBe("12345678");
    press("Come in");
    expect(await screen.findByText("Wrong PIN.")).toBeTruthy();
    expect(field.value).toBe("");
  });
  it("asks one whose PIN rests for the password", async () => {
    held.send.mockResolvedValue(here(true));
    const otherwise = vi.fn();
    render(<AtTablet otherwise={otherwise} />);
    fireEvent.click(await screen.findByRole("button", { name: /Tia Rook/ }));
    expect(screen.queryByLabelText("PIN of Tia Rook")).toBeNull();
    press("Sign in with a password");
    expect(otherwise).toHaveBeenCalledOnce();
  });
  it("is none any more once the server says so", async () => {
    setTablet(true);
    held.send.mockResolvedValue({ title: "", site: "", people: [] });
    const otherwise = vi.fn();
    render(<AtTablet otherwise={otherwise} />);
    await waitFor(() => expect(otherwise).toHaveBeenCalledOnce());
    expect(isTablet()).toBe(false);
  });
  it("says what failed, and asks again", async () => {
    held.send.mockRejectedValueOnce(new ApiError(0, "no_connection", "No connection to the server."));
    held.send.mockResolvedValueOnce(here());
    render(<AtTablet otherwise={() => undefined} />);
    expect(await screen.findByText("No connection to the server.")).toBeTruthy();
    press("Try again");
    expect(await screen.findByText("Who is here?")).toBeTruthy();
  });
});

describe("who holds the tablet at a lock", () => {
  const asks = [{ id: "1", label: "KELP-21 make safe" } as Parcel];
  it("shows by his PIN that it is he", async () => {
    held.send.mockResolvedValue({ me: null });
    render(<ShowAgain asks={asks} />);
    expect(screen.getByText(/KELP-21 make safe waits for you/)).toBeTruthy();
    for (const k of "4827") press(k);
    press("It is me");
    await waitFor(() => expect(held.renewed).toHaveBeenCalledOnce());
    expect(held.send).toHaveBeenCalledWith("POST", "/api/v1/session/again", { pin: "4827" });
  });
  it("asks for the password where no PIN opens, and says that it was wrong", async () => {
    held.me.pin = "rests";
    held.send.mockRejectedValue(new ApiError(422, "password_wrong", "This is not your password."));
    render(<ShowAgain asks={asks} />);
    fireEvent.change(screen.getByLabelText("Password of Tia Rook"), { target: { value: "x" } });
    press("It is me");
    expect(await screen.findByText("This is not your password.")).toBeTruthy();
    expect(held.renewed).not.toHaveBeenCalled();
  });
  it("leaves the lock as it is for whoever is not he", () => {
    const declined = vi.spyOn(outbox, "declined").mockResolvedValue();
    render(<ShowAgain asks={asks} />);
    press("Not me: leave the lock as it is");
    expect(declined).toHaveBeenCalledOnce();
  });
});
