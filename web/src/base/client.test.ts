import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { api, ApiError, onAnswer, send, sendFile, setCsrf } from "./client";

const calls: { path: string; init: RequestInit }[] = [];
let answers: (() => Promise<Response>)[] = [];
const heard: [number, string][] = [];
const json = (status: number, body: unknown) => async () => new Response(JSON.stringify(body), { status });

beforeEach(() => {
  calls.length = heard.length = 0;
  answers = [];
  onAnswer((status, code) => heard.push([status, code]));
  setCsrf("token-1");
  vi.stubGlobal("fetch", (path: string, init: RequestInit) => {
    calls.push({ path, init });
    return (answers.shift() ?? json(200, {}))();
  });
});
afterEach(() => vi.unstubAllGlobals());
const token = (n: number) => (calls[n]?.init.headers as Record<string, string>)["X-CSRFToken"];
const failed = async (run: Promise<unknown>) =>
  run.then(
    () => {
      throw new Error("taken");
    },
    (e: unknown) => e as ApiError,
  );

describe("a request", () => {
  it("carries the token and says what it sends", async () => {
    answers = [json(201, { id: 7 })];
    expect(await send("POST", "/api/v1/x", { a: 1 })).toEqual({ id: 7 });
    expect(token(0)).toBe("token-1");
    expect(calls[0]?.init.body).toBe('{"a":1}');
    expect(heard).toEqual([[201, ""]]);
  });
  it("is no content type and no body where there is nothing to send", async () => {
    await send("GET", "/api/v1/x");
    expect(calls[0]?.init.body).toBeUndefined();
    expect(calls[0]?.init.headers).not.toHaveProperty("Content-Type");
  });
  it("tells a refusal in the server's words, with its fields and what stands now", async () => {
    answers = [
      json(409, {
        code: "stale",
        detail: "Somebody was quicker.",
        problems: [{ code: "stale", field: "version", value: "1", message: "old", right: "2" }],
        current: { version: 2 },
      }),
    ];
    const e = await failed(send("POST", "/api/v1/x", {}));
    expect([e.status, e.code, e.message, e.problems[0]?.field, e.current?.version]).toEqual([
      409,
      "stale",
      "Somebody was quicker.",
      "version",
      2,
    ]);
    expect(e.again).toBe(false);
  });
  it.each([502, 503, 504])("may be sent again after %i", async (status) => {
    answers = [json(status, {})];
    expect((await failed(send("POST", "/api/v1/x", {}))).again).toBe(true);
  });
  it("may be sent again when nobody answered, and everybody hears of it", async () => {
    answers = [
      async () => {
        throw new TypeError("down");
      },
    ];
    const e = await failed(send("POST", "/api/v1/x", {}));
    expect([e.status, e.code, e.again]).toEqual([0, "no_connection", true]);
    expect(heard).toEqual([[0, "no_connection"]]);
  });
  it("is not a lost connection when it was stopped on purpose", async () => {
    answers = [
      async () => {
        throw new DOMException("stopped", "AbortError");
      },
    ];
    expect((await failed(send("POST", "/api/v1/x", {}))).name).toBe("AbortError");
    expect(heard).toEqual([]);
  });
  it("is none either where a read was stopped, and is one where it failed", async () => {
    for (const [error, told] of [
      [new DOMException("stopped", "AbortError"), []],
      [new TypeError("down"), [[0, "no_connection"]]],
    ] as const) {
      answers = [
        async () => {
          throw error;
        },
      ];
      await failed(api.GET("/api/v1/sites", { baseUrl: "http://127.0.0.1" }));
      expect(heard).toEqual(told);
    }
  });
  it("takes a fresh token once when its own is old, and asks again", async () => {
    answers = [
      json(403, { code: "csrf", detail: "old" }),
      json(200, { csrf: "token-2" }),
      json(200, { ok: true }),
    ];
    expect(await send("POST", "/api/v1/x", {})).toEqual({ ok: true });
    expect([token(0), token(2)]).toEqual(["token-1", "token-2"]);
  });
  it("does not ask for ever when the fresh token is refused too", async () => {
    answers = [
      json(403, { code: "csrf", detail: "old" }),
      json(200, { csrf: "token-2" }),
      json(403, { code: "csrf", detail: "still" }),
    ];
    expect((await failed(send("POST", "/api/v1/x", {}))).message).toBe("still");
    expect(calls).toHaveLength(3);
  });
  it("makes a sentence of an answer that is no shape of ours", async () => {
    answers = [async () => new Response("<html>", { status: 500 })];
    const e = await failed(send("GET", "/api/v1/x"));
    expect([e.code, e.message]).toEqual(["http_500", "The server could not answer. Try again."]);
  });
  it("sends a file as a form, with its words beside it", async () => {
    answers = [json(201, { id: 3 })];
    const file = new File(["a"], "old.csv");
    expect(await sendFile("/api/v1/f", { bench: "insulation" }, file)).toEqual({ id: 3 });
    const form = calls[0]?.init.body as FormData;
    expect([form.get("bench"), (form.get("file") as File).name, token(0)]).toEqual([
      "insulation",
      "old.csv",
      "token-1",
    ]);
  });
  it("says that a file was not sent when nobody answered", async () => {
    answers = [
      async () => {
        throw new TypeError("down");
      },
    ];
    expect((await failed(sendFile("/api/v1/f", {}, new File(["a"], "a.csv")))).message).toContain(
      "choose it again",
    );
  });
});
