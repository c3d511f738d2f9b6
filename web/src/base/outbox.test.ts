import "fake-indexeddb/auto";
import { openDB } from "idb";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { ApiError } from "./client";
import { Outbox } from "./outbox";

const said: { method: string; path: string; body: unknown; key: string }[] = [];
let answer: (path: string) => Promise<Response>;
const json = (status: number, body: unknown) => new Response(JSON.stringify(body), { status });

beforeEach(async () => {
  said.length = 0;
  vi.stubGlobal("fetch", (path: string, init: RequestInit) => {
    said.push({
      method: init.method ?? "",
      path,
      body: JSON.parse(String(init.body)),
      key: new Headers(init.headers).get("Idempotency-Key") ?? "",
    });
    return answer(path);
  });
  const all = new Outbox();
  for (const user of ["tia", "leo"]) {
    answer = async () => json(200, {});
    all.signedIn(user);
    for (const p of await all.waiting()) await all.forget(p.id);
    for (const r of await all.refused()) await all.putAside(r.id);
  }
});

/** Whatever the address takes: what may be written where is held by the types. */
const any = (box: Outbox) => box as unknown as { write(...words: unknown[]): Promise<unknown> };

describe("the outbox", () => {
  it("keeps a write before it is sent, and lets it go when it is answered", async () => {
    const box = new Outbox();
    box.signedIn("tia");
    let kept = 0;
    answer = async () => {
      kept = (await box.waiting()).length;
      return json(201, { record: 7 });
    };
    expect(await any(box).write("POST", "/x", { a: 1 }, "a check", "sheet-1")).toEqual({ record: 7 });
    expect(kept).toBe(1);
    expect(await box.waiting()).toEqual([]);
  });

  it("sends the same parcel again after a failure, from another page too", async () => {
    const box = new Outbox();
    box.signedIn("tia");
    answer = async () => {
      throw new TypeError("network");
    };
    void any(box)
      .write("POST", "/x", { a: 1 }, "a check", "sheet-2")
      .catch(() => undefined);
    await vi.waitFor(() => expect(said.length).toBeGreaterThan(0));
    expect((await box.waiting()).map((p) => p.id)).toEqual(["sheet-2"]);
    answer = async () => json(200, { record: 8 });
    const reloaded = new Outbox();
    reloaded.signedIn("tia");
    await vi.waitFor(async () => expect(await reloaded.waiting()).toEqual([]));
    expect(said.at(-1)?.body).toEqual({ a: 1 });
  });

  it("gives a refusal back and does not send it again", async () => {
    const box = new Outbox();
    box.signedIn("tia");
    answer = async () =>
      json(422, {
        code: "figures_refused",
        detail: "no",
        problems: [{ code: "x", field: "amps_1", value: "", message: "no", right: "" }],
      });
    await expect(any(box).write("POST", "/x", {}, "a check")).rejects.toMatchObject({
      status: 422,
      code: "figures_refused",
    });
    expect(await box.waiting()).toEqual([]);
    expect(said).toHaveLength(1);
  });

  it("waits where the session ended, and goes on after signing in", async () => {
    const box = new Outbox();
    box.signedIn("tia");
    answer = async () => json(401, { code: "signed_out", detail: "out" });
    const done = any(box).write("POST", "/x", {}, "a check");
    await vi.waitFor(() => expect(said).toHaveLength(1));
    expect(await box.waiting()).toHaveLength(1);
    answer = async () => json(201, { record: 9 });
    box.signedIn("tia");
    expect(await done).toEqual({ record: 9 });
  });

  it("keeps one person's parcels from going under another's name", async () => {
    const box = new Outbox();
    box.signedIn("tia");
    answer = async () => json(503, { code: "database_gone", detail: "gone" });
    void any(box)
      .write("POST", "/x", { whose: "tia" }, "a check")
      .catch(() => undefined);
    await vi.waitFor(() => expect(said).toHaveLength(1));
    answer = async () => json(201, {});
    const other = new Outbox();
    other.signedIn("leo");
    await any(other).write("POST", "/y", { whose: "leo" }, "a check");
    expect(said.slice(1).map((s) => s.body)).toEqual([{ whose: "leo" }]);
  });

  it("gives nothing up on a server's failure, and lets other sets' parcels by", async () => {
    const box = new Outbox();
    box.signedIn("tia");
    answer = async (path) =>
      path === "/sets/7/x" ? json(500, { code: "http_500", detail: "failed" }) : json(201, { record: 1 });
    void any(box)
      .write("POST", "/sets/7/x", { a: 1 }, "first", "one")
      .catch(() => undefined);
    await vi.waitFor(() => expect(said).toHaveLength(1));
    void any(box)
      .write("POST", "/sets/7/y", { a: 2 }, "behind it", "two")
      .catch(() => undefined);
    expect(await any(box).write("POST", "/sets/8/x", { a: 3 }, "another set's", "three")).toEqual({
      record: 1,
    });
    expect((await box.waiting()).map((p) => p.id)).toEqual(["one", "two"]);
    // Of its own: a page that an earlier test left open may still send.
    const mine = () => said.filter((s) => s.path.startsWith("/sets/"));
    expect(mine().map((s) => s.path)).toEqual(["/sets/7/x", "/sets/8/x"]);
    answer = async () => json(201, {});
    const reloaded = new Outbox();
    reloaded.signedIn("tia");
    await vi.waitFor(async () => expect(await reloaded.waiting()).toEqual([]), { timeout: 15_000 });
    expect([
      ...new Set(
        mine()
          .slice(2)
          .map((s) => s.path),
      ),
    ]).toEqual(["/sets/7/x", "/sets/7/y"]);
    expect(
      new Set(
        mine()
          .filter((s) => s.path === "/sets/7/x")
          .map((s) => s.key),
      ).size,
    ).toBe(1);
  });

  it("keeps a refusal for whoever looks after a reload, until it is put aside", async () => {
    const box = new Outbox();
    box.signedIn("tia");
    answer = async () => json(409, { code: "call_differs", detail: "Another call is on file." });
    await expect(
      any(box).write("POST", "/calls", { note: "drips" }, "call, water", "c1"),
    ).rejects.toMatchObject({
      status: 409,
    });
    expect(await box.refused()).toEqual([]);
    const reloaded = new Outbox();
    reloaded.signedIn("tia");
    expect((await reloaded.refused()).map((r) => [r.label, r.message, r.body])).toEqual([
      ["call, water", "Another call is on file.", { note: "drips" }],
    ]);
    const other = new Outbox();
    other.signedIn("leo");
    expect(await other.refused()).toEqual([]);
    await reloaded.putAside("c1");
    const again = new Outbox();
    again.signedIn("tia");
    expect(await again.refused()).toEqual([]);
  });

  it("lets a refusal go once the same was mended and taken, and no other", async () => {
    const box = new Outbox();
    box.signedIn("tia");
    answer = async () => json(422, { code: "x", detail: "no" });
    await expect(any(box).write("POST", "/a", {}, "a", "a1")).rejects.toBeInstanceOf(ApiError);
    await expect(any(box).write("POST", "/b", {}, "b", "b1")).rejects.toBeInstanceOf(ApiError);
    answer = async () => json(201, {});
    await any(box).write("POST", "/a", {}, "a", "a2");
    const reloaded = new Outbox();
    reloaded.signedIn("tia");
    expect((await reloaded.refused()).map((r) => r.id)).toEqual(["b1"]);
  });

  it("sends the same write anew under another id, and what was kept by an earlier page to where it goes today", async () => {
    const box = new Outbox();
    box.signedIn("tia");
    answer = async () => json(201, {});
    await any(box).write("POST", "/x", { a: 1 }, "x", "same");
    await any(box).write("POST", "/x", { a: 1 }, "x", "same");
    expect(new Set(said.map((s) => s.key)).size).toBe(2);
    const db = await openDB("hurbin");
    await db.put("outbox", {
      id: "old-1",
      user: "tia",
      method: "POST",
      path: "/api/sites/1/calls",
      body: {},
      label: "call",
      made: 1,
    });
    await box.flush();
    await vi.waitFor(async () => expect(await box.waiting()).toEqual([]));
    expect([said.at(-1)?.path, said.at(-1)?.key]).toEqual(["/api/v1/sites/1/calls", "old-1"]);
  });
});

describe("an answer of no shape of ours", () => {
  it("is still an error that can be told", async () => {
    const box = new Outbox();
    box.signedIn("tia");
    answer = async () => new Response("<html>Bad gateway</html>", { status: 404 });
    await expect(any(box).write("POST", "/x", {}, "x")).rejects.toBeInstanceOf(ApiError);
  });

  it("is sent by one tab, and whoever waits for it in another hears how it ended", async () => {
    const [mine, other] = [new Outbox(), new Outbox()];
    let answers = 0;
    answer = async () => {
      answers += 1;
      await new Promise((done) => setTimeout(done, 30));
      return json(201, { record: answers });
    };
    mine.signedIn("tia");
    other.signedIn("tia");
    const told = any(mine).write("POST", "/x", { a: 1 }, "a check", "sheet-tabs");
    void other.flush();
    expect(await told).toEqual({ record: 1 });
    expect(await mine.waiting()).toEqual([]);
    expect(new Set(said.filter((s) => s.path === "/x").map((s) => s.key)).size).toBe(1);
  });
  it("tells the other tab of a refusal as well", async () => {
    const [mine, other] = [new Outbox(), new Outbox()];
    mine.signedIn("tia");
    const channel = new BroadcastChannel("hurbin-outbox");
    answer = () => new Promise(() => undefined);
    const told = any(mine).write("POST", "/x", { a: 1 }, "a check", "sheet-elsewhere");
    await vi.waitFor(async () => expect(await other.waiting()).toEqual([]));
    const refused = { status: 422, code: "no", message: "Not so.", problems: [] };
    channel.postMessage({ id: "sheet-elsewhere", key: "k", refused });
    await expect(told).rejects.toMatchObject({ status: 422, message: "Not so." });
    channel.close();
    await mine.forget("sheet-elsewhere");
  });
});

// People of its own: an outbox of an earlier test may still be trying, in its own person’s name.
describe("a tablet of several people", () => {
  it("holds what asks who sends it, with all of its set, until he has shown it or declines", async () => {
    const box = new Outbox();
    box.signedIn("ana");
    let asked: string[] = [];
    box.onChange((_waiting, _refused, asks) => {
      asked = asks.map((p) => p.id);
    });
    let shown = false;
    answer = async (path) =>
      path === "/lock" && !shown ? json(403, { code: "ask_again", detail: "Who is it?" }) : json(200, {});
    const lock = any(box).write("POST", "/lock", { set_id: 7 }, "a lock", "lock-1");
    const later = any(box).write("POST", "/after", { set_id: 7 }, "a proof", "after-1");
    const other = any(box).write("POST", "/other", { set_id: 8 }, "a check", "other-1");
    await other;
    await vi.waitFor(() => expect(asked).toEqual(["lock-1"]));
    await box.flush();
    expect(said.filter((s) => s.path === "/lock")).toHaveLength(1);
    expect(said.some((s) => s.path === "/after")).toBe(false);
    shown = true;
    box.signedIn("ana");
    await Promise.all([lock, later]);
    expect(said.map((s) => s.path)).toEqual(["/lock", "/other", "/lock", "/after"]);
    expect(said[2]?.key).toBe(said[0]?.key);
    shown = false;
    const second = any(box).write("POST", "/lock", { set_id: 7 }, "a lock", "lock-2");
    const refused = expect(second).rejects.toThrow("did not show that it is you");
    await vi.waitFor(() => expect(asked).toEqual(["lock-2"]));
    await box.declined();
    await refused;
    expect(await box.waiting()).toEqual([]);
  });

  it("holds everything while the person is switched, and goes on when he stays after all", async () => {
    const box = new Outbox();
    box.signedIn("ana");
    answer = async () => json(200, {});
    box.pause();
    const sent = any(box).write("POST", "/x", {}, "a check", "held-1");
    await vi.waitFor(async () => expect((await box.waiting()).length).toBe(1));
    await box.flush();
    expect(said).toEqual([]);
    box.resume();
    await sent;
    expect(said.map((s) => s.path)).toEqual(["/x"]);
  });

  it("sends nothing of the one before once somebody else is signed in", async () => {
    const box = new Outbox();
    box.signedIn("ana");
    let goes: () => void = () => undefined;
    answer = () => new Promise((resolve) => (goes = () => resolve(json(200, {}))));
    void any(box).write("POST", "/first", {}, "one", "one");
    void any(box).write("POST", "/second", {}, "two", "two");
    await vi.waitFor(() => expect(said.length).toBe(1));
    box.signedIn("bo");
    goes();
    await vi.waitFor(async () => expect(await box.waiting()).toEqual([]));
    await box.flush();
    expect(said.map((s) => s.path)).toEqual(["/first"]);
    answer = async () => json(200, {});
    box.signedIn("ana");
    await vi.waitFor(() => expect(said.map((s) => s.path)).toEqual(["/first", "/second"]));
  });
});
