import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act, renderHook } from "@testing-library/react";
import type { ReactNode } from "react";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { address } from "./address";
import { ApiError } from "./client";
import { forgetDrafts } from "./drafts";
import { outbox } from "./outbox";
import { useSmallForm } from "./smallform";

vi.mock("./session", () => ({ useMe: () => ({ username: "tia" }) }));
const sent: { uuid: string; note: string }[] = [];
let answer: () => unknown = () => ({});
beforeEach(() => {
  localStorage.clear();
  forgetDrafts();
  sent.length = 0;
  answer = () => ({});
  vi.spyOn(outbox, "write").mockImplementation(async (_m, _p, body) => {
    sent.push(body as never);
    return answer() as never;
  });
});
const within = ({ children }: { children: ReactNode }) => (
  <QueryClientProvider client={new QueryClient()}>{children}</QueryClientProvider>
);
const form = () =>
  renderHook(() => useSmallForm("call:7", { uuid: crypto.randomUUID() as string, note: "", picture: "" }), {
    wrapper: within,
  });
type Form = ReturnType<typeof form>["result"];
const send = (f: Form) =>
  act(async () => {
    await f.current.send(
      "POST",
      address("/api/v1/calls/{uuid}/more", { uuid: f.current.v.uuid }),
      f.current.v,
      "call",
    );
  });
const type = (f: Form, note: string) => act(() => f.current.set({ note }));

describe("a small form", () => {
  it("goes out under another id once the one before it was taken", async () => {
    const { result } = form();
    type(result, "it drips");
    await send(result);
    expect(result.current.v.note).toBe("");
    type(result, "it drips again");
    await send(result);
    expect(sent.map((s) => s.note)).toEqual(["it drips", "it drips again"]);
    expect(sent[0]?.uuid).not.toBe(sent[1]?.uuid);
  });
  it("keeps its words and its id when it was refused, so that it is never taken twice", async () => {
    answer = () => {
      throw new ApiError(422, "note_missing", "Say what is wrong.");
    };
    const { result } = form();
    type(result, "wet");
    await send(result);
    expect([result.current.v.note, (result.current.error as ApiError).message]).toEqual([
      "wet",
      "Say what is wrong.",
    ]);
    answer = () => ({});
    await send(result);
    expect(sent[0]?.uuid).toBe(sent[1]?.uuid);
  });
  it("takes another id when something else is on file under it", async () => {
    answer = () => {
      throw new ApiError(409, "call_differs", "Something else is on file.");
    };
    const { result } = form();
    type(result, "wet");
    await send(result);
    expect(result.current.v.note).toBe("wet");
    await send(result);
    expect(sent[0]?.uuid).not.toBe(sent[1]?.uuid);
  });
});
