import "fake-indexeddb/auto";
import { act, cleanup, renderHook, waitFor } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { dropDraft, forgetDrafts, openDrafts, readDraft, useDraft, writeDraft } from "./drafts";
import { store } from "./store";

const JOURNAL = "hurbin-draft:";
const journalled = () => Object.keys(localStorage).filter((k) => k.startsWith(JOURNAL));
const settled = () => waitFor(() => expect(journalled()).toEqual([]));
/** As after the page was killed: nothing known but what the device holds. */
const again = async () => {
  forgetDrafts();
  await openDrafts();
};
beforeEach(async () => {
  localStorage.clear();
  await (await store()).clear("drafts");
  forgetDrafts();
});
afterEach(cleanup);

describe("what was typed", () => {
  it("is in the store a moment later, and there after a kill", async () => {
    writeDraft("tia:7:check", { amps: "12" });
    expect(journalled()).toHaveLength(1);
    await settled();
    await again();
    expect(readDraft("tia:7:check")).toEqual({ amps: "12" });
  });
  it("is there after a kill before the store had it, and newer than what the store has", async () => {
    writeDraft("k", { amps: "1" });
    await settled();
    localStorage.setItem(`${JOURNAL}k`, JSON.stringify({ amps: "12" }));
    await again();
    expect(readDraft("k")).toEqual({ amps: "12" });
    await settled();
    await again();
    expect(readDraft("k")).toEqual({ amps: "12" });
  });
  it("never stands back behind what the store holds from before", async () => {
    writeDraft("k", { amps: "1" });
    await settled();
    forgetDrafts();
    const opening = openDrafts();
    writeDraft("k", { amps: "12" });
    await opening;
    expect(readDraft("k")).toEqual({ amps: "12" });
  });
  it("is gone for good when it is done, however quickly it was typed before", async () => {
    for (let n = 0; n < 30; n++) writeDraft("k", { amps: String(n) });
    dropDraft("k");
    await new Promise((done) => setTimeout(done, 100));
    await again();
    expect(readDraft("k")).toBeNull();
  });
  it("is the last that was typed, never one of those before", async () => {
    for (let n = 0; n < 30; n++) writeDraft("k", { amps: String(n) });
    await settled();
    await again();
    expect(readDraft("k")).toEqual({ amps: "29" });
  });
  it("begins afresh where what is kept cannot be read", async () => {
    localStorage.setItem(`${JOURNAL}k`, "{broken");
    await again();
    expect(renderHook(() => useDraft("k", { a: 1 })).result.current.value).toEqual({ a: 1 });
  });
});

describe("a draft of a sheet", () => {
  it("goes along when the hand joins another's sheet, and leaves nothing behind", () => {
    const { result, rerender } = renderHook(({ key }) => useDraft(key, { a: 0 }, true), {
      initialProps: { key: "mine" },
    });
    act(() => result.current.change({ a: 3 }));
    rerender({ key: "theirs" });
    expect(result.current.value).toEqual({ a: 3 });
    expect([readDraft("mine"), readDraft("theirs")]).toEqual([null, { a: 3 }]);
  });
  it("never covers what was typed on that sheet before, and is another's no longer once it is done", () => {
    writeDraft("theirs", { a: 8 });
    const { result, rerender } = renderHook(({ key }) => useDraft(key, { a: 0 }, true), {
      initialProps: { key: "mine" },
    });
    act(() => result.current.change({ a: 3 }));
    rerender({ key: "theirs" });
    expect(result.current.value).toEqual({ a: 8 });
    act(() => result.current.done({ a: 0 }));
    rerender({ key: "next" });
    expect([result.current.value, readDraft("next")]).toEqual([{ a: 0 }, null]);
  });
});

describe("another tab of the same device", () => {
  it("shows what is typed in this one, and that it is done", async () => {
    const { result } = renderHook(() => useDraft("k", { a: 0 }));
    const other = new BroadcastChannel("hurbin-drafts");
    act(() => other.postMessage({ key: "k", value: { a: 5 } }));
    await waitFor(() => expect(result.current.value).toEqual({ a: 5 }));
    act(() => other.postMessage({ key: "another", value: { a: 9 } }));
    act(() => other.postMessage({ key: "k", value: null }));
    await waitFor(() => expect(result.current.value).toEqual({ a: 0 }));
    other.close();
  });
});
