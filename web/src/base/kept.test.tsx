import "fake-indexeddb/auto";
import { cleanup, renderHook, waitFor } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { ApiError } from "./client";
import type { Query } from "./components/States";
import { dropKept, useKept } from "./kept";
import { store } from "./store";

let who = "tia";
vi.mock("./session", () => ({ useMe: () => ({ username: who }) }));
const refetch = vi.fn();
const told = (data: unknown): Query<unknown> => ({ data, error: null, refetch });
const failed = (status: number): Query<unknown> => ({
  data: undefined,
  error: new ApiError(status, "x", "No."),
  refetch,
});
const read = (query: Query<unknown>, name = "case:7") => renderHook(() => useKept(name, query));
const inStore = async () => (await store()).count("cases");

beforeEach(async () => {
  who = "tia";
  await dropKept();
});
afterEach(cleanup);

describe("a read without a signal", () => {
  it("stands as it was told last, and says of when", async () => {
    expect(read(told({ volts: 400 })).result.current.since).toBeNull();
    await waitFor(async () => expect(await inStore()).toBe(1));
    const { result } = read(failed(0));
    await waitFor(() => expect(result.current.data).toEqual({ volts: 400 }));
    expect(result.current.since).toBeInstanceOf(Date);
    expect(result.current.error).toBeNull();
  });
  it("stands for nobody else, and for no other set", async () => {
    read(told({ volts: 400 }));
    await waitFor(async () => expect(await inStore()).toBe(1));
    const other = read(failed(0), "case:8");
    who = "leo";
    const theirs = read(failed(0));
    await new Promise((done) => setTimeout(done, 50));
    expect([other.result.current.data, theirs.result.current.data]).toEqual([undefined, undefined]);
    expect(theirs.result.current.error).not.toBeNull();
  });
  it("never stands where the server refused", async () => {
    read(told({ volts: 400 }));
    await waitFor(async () => expect(await inStore()).toBe(1));
    const { result } = read(failed(403));
    await new Promise((done) => setTimeout(done, 50));
    expect([result.current.data, result.current.since]).toEqual([undefined, null]);
    expect(result.current.error).toMatchObject({ status: 403 });
  });
});
