import "fake-indexeddb/auto";
import { act, cleanup, renderHook, waitFor } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { EntryBody } from "./address";
import { forgetDrafts, readDraft } from "./drafts";
import { outbox } from "./outbox";
import { deviceName, mergeEntries, useOpenSheet, type SheetEntry } from "./sheets";

type Body = EntryBody<"insulation">;
const T = "2026-03-02T09:00:00.000Z";
const entry = (uuid: string, taken_at = T, kind: Body["kind"] = "reading"): SheetEntry<Body> => ({
  uuid,
  taken_at,
  device: "other",
  body: { kind },
});
let open: unknown[] = [];
// What the server says is open; how it is asked is the query's own business.
vi.mock("./queries", () => ({
  useGet: (_: string, params: unknown) => ({
    data: params === null ? undefined : open,
    refetch: async () => undefined,
  }),
}));
const posted: { path: string; body: { entries: SheetEntry<Body>[] } }[] = [];
let status = 200;
const json = (code: number, body: unknown) =>
  new Response(JSON.stringify(body), { status: code, headers: { "Content-Type": "application/json" } });

beforeEach(() => {
  localStorage.clear();
  forgetDrafts();
  open = [];
  posted.length = 0;
  status = 200;
  vi.stubGlobal("fetch", async (path: string, init?: RequestInit) => {
    posted.push({ path, body: JSON.parse(String(init?.body)) as { entries: SheetEntry<Body>[] } });
    return status === 200 ? json(200, {}) : json(status, { code: "refused", detail: "No." });
  });
  outbox.signedIn("tia");
});
afterEach(async () => {
  cleanup();
  await waitFor(async () => expect(await outbox.waiting()).toHaveLength(0), { timeout: 5000 });
});

const now = () => new Date(T);
const HAND = { resistance: "3" };
const opened = (more: object = {}) =>
  renderHook(() =>
    useOpenSheet("insulation", { user: "tia", setId: 7, tag: "C-1", hand: HAND, now, ...more }),
  );
const server = (uuid: string, entries: SheetEntry<Body>[]) => ({
  uuid,
  set_id: 7,
  bench: "insulation",
  opened_by: "Leo",
  opened_at: T,
  closed_at: null,
  left_because: "",
  record: null,
  entries: entries.map((e) => ({ ...e, by: "Leo", late: false })),
});

describe("a sheet that stays open", () => {
  it("keeps an entry on the device before it is sent, and sends it once under its own id", async () => {
    const { result } = opened();
    act(() => void result.current.add({ kind: "start" }));
    expect(result.current.entries).toHaveLength(1);
    const kept = readDraft<{ entries: unknown[]; sheet: string }>("sheet:tia:7:insulation:");
    expect(kept?.entries).toHaveLength(1);
    await waitFor(() => expect(posted).toHaveLength(1));
    expect(posted[0]?.path).toBe(`/api/v1/benches/insulation/sheets/${kept?.sheet}/entries`);
    expect(posted[0]?.body.entries[0]?.uuid).toBe(result.current.entries[0]?.uuid);
  });
  it("is there again after the page was killed", () => {
    const first = opened();
    act(() => void first.result.current.add({ kind: "start" }));
    first.unmount();
    expect(opened().result.current.entries).toHaveLength(1);
  });
  it("takes part in the sheet that stands open while nothing of its own is typed", async () => {
    open = [server("sheet-of-leo", [entry("a1")])];
    const { result } = opened();
    await waitFor(() => expect(result.current.entries).toHaveLength(1));
    expect([result.current.sheet, result.current.by]).toEqual(["sheet-of-leo", "Leo"]);
    act(() => void result.current.add({ kind: "reading" }));
    await waitFor(() => expect(posted.at(-1)?.path).toContain("sheet-of-leo"));
    expect(result.current.entries).toHaveLength(2);
  });
  it("offers another's sheet instead of its own, and joins it only when asked", async () => {
    const { result } = opened();
    act(() => void result.current.add({ kind: "start" }));
    open = [server("sheet-of-leo", [entry("a1")])];
    const again = opened();
    await waitFor(() => expect(again.result.current.others).toHaveLength(1));
    expect(again.result.current.sheet).not.toBe("sheet-of-leo");
    act(() => again.result.current.join("sheet-of-leo"));
    await waitFor(() => expect(again.result.current.entries.map((e) => e.uuid)).toEqual(["a1"]));
  });
  it("sends nothing while a record is corrected or tried in pencil", async () => {
    const { result } = opened({ apart: "pencil9", start: [entry("s1")] });
    expect(result.current.entries).toHaveLength(1);
    act(() => void result.current.add({ kind: "undo" }));
    await new Promise((r) => setTimeout(r, 30));
    expect(posted.flatMap((p) => p.body.entries.map((e) => e.body.kind))).not.toContain("undo");
  });
  it("tells a refusal and keeps what was entered", async () => {
    status = 409;
    const { result } = opened();
    act(() => void result.current.add({ kind: "start" }));
    await waitFor(() => expect(result.current.refusal?.message).toBe("No."));
    expect(result.current.entries).toHaveLength(1);
  });
  it("is empty and new when it is done", () => {
    const { result } = opened();
    act(() => void result.current.add({ kind: "start" }));
    const before = result.current.sheet;
    act(() => result.current.done());
    expect(result.current.entries).toHaveLength(0);
    expect(result.current.sheet).not.toBe(before);
    // What is typed next is of that new sheet, after a reload as well.
    expect(opened().result.current.sheet).toBe(result.current.sheet);
  });
  it("merges mine and theirs in the order in which they count", () => {
    const mine = [entry("m2", "2026-03-02T09:00:05.000Z"), entry("m1")];
    const theirs = [entry("t1", "2026-03-02T09:00:03Z"), entry("m1")];
    expect(mergeEntries(mine, theirs).map((e) => e.uuid)).toEqual(["m1", "t1", "m2"]);
    expect(mergeEntries([entry("b"), entry("a")], []).map((e) => e.uuid)).toEqual(["a", "b"]);
  });
  it("names the device once and for all", () => expect(deviceName()).toBe(deviceName()));
});
