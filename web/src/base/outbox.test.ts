import "fake-indexeddb/auto";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { ApiError } from "./client";
import { Outbox } from "./outbox";

const said: { method: string; path: string; body: unknown }[] = [];
let answer: () => Promise<Response>;
const json = (status: number, body: unknown) => new Response(JSON.stringify(body), { status });

beforeEach(async () => {
  said.length = 0;
  vi.stubGlobal("fetch", (path: string, init: RequestInit) => {
    said.push({ method: init.method ?? "", path, body: JSON.parse(String(init.body)) });
    return answer();
  });
  const all = new Outbox();
  for (const user of ["tia", "leo"]) {
    answer = async () => json(200, {});
    all.signedIn(user);
    for (const p of await all.waiting()) await all.forget(p.id);
  }
});

describe("the outbox", () => {
  it("keeps a write before it is sent, and lets it go when it is answered", async () => {
    const box = new Outbox();
    box.signedIn("tia");
    let kept = 0;
    answer = async () => {
      kept = (await box.waiting()).length;
      return json(201, { record: 7 });
    };
    expect(await box.write("POST", "/x", { a: 1 }, "a check", "sheet-1")).toEqual({ record: 7 });
    expect(kept).toBe(1);
    expect(await box.waiting()).toEqual([]);
  });

  it("sends the same parcel again after a failure, from another page too", async () => {
    const box = new Outbox();
    box.signedIn("tia");
    answer = async () => {
      throw new TypeError("network");
    };
    void box.write("POST", "/x", { a: 1 }, "a check", "sheet-2").catch(() => undefined);
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
    answer = async () => json(422, { code: "figures_refused", message: "no", problems: [{ code: "x", field: "amps_1", value: "", message: "no", right: "" }] });
    await expect(box.write("POST", "/x", {}, "a check")).rejects.toMatchObject({ status: 422, code: "figures_refused" });
    expect(await box.waiting()).toEqual([]);
    expect(said).toHaveLength(1);
  });

  it("waits where the session ended, and goes on after signing in", async () => {
    const box = new Outbox();
    box.signedIn("tia");
    answer = async () => json(401, { code: "signed_out", message: "out" });
    const done = box.write("POST", "/x", {}, "a check");
    await vi.waitFor(() => expect(said).toHaveLength(1));
    expect(await box.waiting()).toHaveLength(1);
    answer = async () => json(201, { record: 9 });
    box.signedIn("tia");
    expect(await done).toEqual({ record: 9 });
  });

  it("keeps one person's parcels from going under another's name", async () => {
    const box = new Outbox();
    box.signedIn("tia");
    answer = async () => json(503, { code: "database_gone", message: "gone" });
    void box.write("POST", "/x", { whose: "tia" }, "a check").catch(() => undefined);
    await vi.waitFor(() => expect(said).toHaveLength(1));
    answer = async () => json(201, {});
    const other = new Outbox();
    other.signedIn("leo");
    await other.write("POST", "/y", { whose: "leo" }, "a check");
    expect(said.slice(1).map((s) => s.body)).toEqual([{ whose: "leo" }]);
  });
});

describe("an answer of no shape of ours", () => {
  it("is still an error that can be told", async () => {
    const box = new Outbox();
    box.signedIn("tia");
    answer = async () => new Response("<html>Bad gateway</html>", { status: 404 });
    await expect(box.write("POST", "/x", {}, "x")).rejects.toBeInstanceOf(ApiError);
  });
});
