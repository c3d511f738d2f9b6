import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act, cleanup, renderHook, waitFor } from "@testing-library/react";
import type { ReactNode } from "react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { ApiError, send } from "./client";
import { outbox } from "./outbox";
import { SessionProvider, useMe, useSession } from "./session";

vi.mock("./changes", () => ({ useChanges: () => undefined }));
vi.mock("./kept", () => ({ dropKept: async () => undefined }));
const NOW = Date.parse("2026-03-02T09:00:00Z");
const me = (username: string, more: object = {}) => ({
  ...{ username, full_name: username, locale: "en-GB", units: { pressure: "bar" }, sheet: "light" },
  ...{ hand: "right", must_change: false, ...more },
});
let csrf = 0;
let who: object | null;
let refuse: { status: number; code: string } | null;
const calls: { method: string; path: string; body: unknown; token: string }[] = [];
const paused = vi.spyOn(outbox, "pause").mockReturnValue(undefined);
const resumed = vi.spyOn(outbox, "resume").mockReturnValue(undefined);
const signed = vi.spyOn(outbox, "signedIn").mockReturnValue(undefined);

beforeEach(() => {
  calls.length = csrf = 0;
  who = me("tia");
  refuse = null;
  for (const spy of [paused, resumed, signed]) spy.mockClear();
  vi.stubGlobal("fetch", async (path: string, init: RequestInit = {}) => {
    const method = init.method ?? "GET";
    const token = (init.headers as Record<string, string>)["X-CSRFToken"] ?? "";
    const body: unknown = init.body ? JSON.parse(String(init.body)) : null;
    calls.push({ method, path, body, token });
    if (refuse && (method !== "GET" || path !== "/api/v1/session"))
      return new Response(JSON.stringify({ code: refuse.code, detail: "No." }), { status: refuse.status });
    if (method === "PATCH") return new Response(JSON.stringify(who));
    if (method === "DELETE") who = null;
    if (method === "POST") who = me((body as { username: string }).username);
    csrf += 1;
    const session = { csrf: `token-${String(csrf)}`, me: who, now: new Date(NOW).toISOString(), demo: true };
    return new Response(JSON.stringify(session));
  });
});
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

async function begun() {
  const client = new QueryClient();
  const wrapper = ({ children }: { children: ReactNode }) => (
    <QueryClientProvider client={client}>
      <SessionProvider>{(loading) => (loading ? null : children)}</SessionProvider>
    </QueryClientProvider>
  );
  const { result } = renderHook(() => useSession(), { wrapper });
  await waitFor(() => expect(result.current).not.toBeNull());
  return { result, client };
}
const refused = async (run: () => Promise<unknown>) => {
  let told: unknown = null;
  await act(async () => {
    told = await run().catch((e: unknown) => e);
  });
  return told as ApiError;
};

describe("who is signed in", () => {
  it("is told once the server has said so, with the server's clock and its demo", async () => {
    const { result } = await begun();
    expect(result.current.me?.username).toBe("tia");
    expect(result.current.demo).toBe(true);
    expect(Math.abs(result.current.now().getTime() - NOW)).toBeLessThan(5000);
    expect(signed).toHaveBeenCalledWith("tia");
  });
  it("comes in with a token of now: one from before the session ended no longer counts", async () => {
    const { result } = await begun();
    await act(() => result.current.signIn({ username: "jun", password: "w" }));
    const [asked, came] = calls.slice(-2);
    expect([asked?.method, came?.method, came?.path]).toEqual(["GET", "POST", "/api/v1/session"]);
    expect(came?.token).toBe("token-2");
    expect(result.current.me?.username).toBe("jun");
    expect(signed).toHaveBeenLastCalledWith("jun");
  });
  it("comes in by a PIN at a door of its own", async () => {
    const { result } = await begun();
    await act(() => result.current.signIn({ username: "jun", pin: "7416" }));
    expect(calls.at(-1)).toMatchObject({ path: "/api/v1/tablet/session", body: { username: "jun" } });
  });
  it("sends nothing more once the session has ended, and says so until somebody is in again", async () => {
    const { result } = await begun();
    refuse = { status: 401, code: "signed_out" };
    await refused(() => send("GET", "/api/v1/sites"));
    expect(result.current.expired).toBe(true);
    expect(paused).toHaveBeenCalled();
    refuse = null;
    await act(() => result.current.signIn({ username: "tia", password: "w" }));
    expect(result.current.expired).toBe(false);
  });
  it("does not take a wrong password for an ended session", async () => {
    const { result } = await begun();
    refuse = { status: 401, code: "sign_in_wrong" };
    const told = await refused(() => result.current.signIn({ username: "tia", password: "x" }));
    expect(told.code).toBe("sign_in_wrong");
    expect(result.current.expired).toBe(false);
    expect(result.current.me?.username).toBe("tia");
  });
});

describe("signing out", () => {
  it("keeps back what waits, and forgets what was read", async () => {
    const { result, client } = await begun();
    client.setQueryData(["/api/v1/sites"], [1]);
    await act(() => result.current.signOut());
    expect(paused).toHaveBeenCalledOnce();
    expect(resumed).not.toHaveBeenCalled();
    expect(result.current.me).toBeNull();
    expect(client.getQueryData(["/api/v1/sites"])).toBeUndefined();
  });
  it("that is not heard leaves everything as it was, and sends on", async () => {
    const { result } = await begun();
    refuse = { status: 503, code: "database_gone" };
    expect((await refused(() => result.current.signOut())).code).toBe("database_gone");
    expect(resumed).toHaveBeenCalledOnce();
    expect(result.current.me?.username).toBe("tia");
  });
});

describe("what concerns the whole page", () => {
  it("is a full disk, until something is written again: reading tells nothing of it", async () => {
    const { result } = await begun();
    refuse = { status: 507, code: "disk_full" };
    await refused(() => send("POST", "/api/v1/x", {}));
    expect(result.current.full).toBe(true);
    refuse = null;
    await act(() => send("GET", "/api/v1/session"));
    expect(result.current.full).toBe(true);
    await act(() => send("PATCH", "/api/v1/x", {}));
    expect(result.current.full).toBe(false);
  });
  it.each([
    ["no database", { status: 503, code: "database_gone" }],
    ["a network that is gone", null],
  ])("is %s, until somebody answers", async (_, code) => {
    const { result } = await begun();
    refuse = code;
    if (code) await refused(() => send("GET", "/api/v1/sites"));
    else act(() => void window.dispatchEvent(new Event("offline")));
    expect(result.current.connected).toBe(false);
    refuse = null;
    await act(() => send("GET", "/api/v1/session"));
    expect(result.current.connected).toBe(true);
  });
  it("is its sheet: light or night", async () => {
    who = me("tia", { sheet: "night" });
    await begun();
    expect(document.documentElement.dataset.sheet).toBe("night");
  });
});

describe("a preference", () => {
  it("counts at once, one unit beside the others, and is what the server then says", async () => {
    const { result } = await begun();
    who = me("tia", { units: { pressure: "kPa", flow: "l/s" } });
    let done: Promise<void> = Promise.resolve();
    act(() => {
      done = result.current.setPrefs({ units: { flow: "l/s" } });
    });
    expect(result.current.me?.units).toEqual({ pressure: "bar", flow: "l/s" });
    await act(() => done);
    expect(result.current.me?.units).toEqual({ pressure: "kPa", flow: "l/s" });
  });
});

describe("outside of a session", () => {
  it("nobody is anybody", () => {
    vi.spyOn(console, "error").mockImplementation(() => undefined);
    expect(() => renderHook(() => useMe())).toThrow("outside of SessionProvider");
  });
});
