import { act, cleanup, renderHook } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { ApiError } from "./client";
vi.mock("./session", () => ({ useMe: () => reader }));
import { useEvaluation, type Evaluator, type Shown } from "./evaluator";

interface Asked {
  body: unknown;
  found: unknown;
  signal: AbortSignal;
  answer: (said: Partial<Shown>) => void;
  fail: (e: unknown) => void;
}
let asked: Asked[] = [];
let reader = { units: { current: "A" }, locale: "en-GB" };
const evaluator: Evaluator = {
  evaluate: ({ body, case: found }, signal) =>
    new Promise((resolve, reject) => {
      asked.push({ body, found, signal, answer: (said) => resolve(said as Shown), fail: reject });
      signal.addEventListener("abort", () => reject(new DOMException("stopped", "AbortError")));
    }),
};
beforeEach(() => {
  asked = [];
  vi.useFakeTimers();
});
afterEach(() => {
  cleanup();
  vi.useRealTimers();
});
const pass = (ms: number) =>
  act(async () => {
    await vi.advanceTimersByTimeAsync(ms);
  });
const judged = (first: unknown) =>
  renderHook(({ body, found }) => useEvaluation("running_check", body as never, found, evaluator), {
    initialProps: { body: first, found: { plate: 1 } as unknown },
  });

describe("judging while typing", () => {
  it("asks at once, and nothing again that it has asked", async () => {
    const hook = judged({ n: 1 });
    expect(asked.map((a) => a.body)).toEqual([{ n: 1 }]);
    hook.rerender({ found: { plate: 1 }, body: { n: 1 } });
    hook.rerender({ found: { plate: 1 }, body: { n: 2 } });
    await pass(10);
    expect(asked.map((a) => a.body)).toEqual([{ n: 1 }, { n: 2 }]);
  });
  it("asks again when the set is told anew, and calls what it knew of before", async () => {
    const hook = judged({ n: 1 });
    await pass(130);
    await act(async () => asked[0]?.answer({ verdict: "good" }));
    expect(hook.result.current.before).toBe(false);
    hook.rerender({ body: { n: 1 }, found: { plate: 1 } });
    await pass(130);
    expect(asked).toHaveLength(1);
    hook.rerender({ body: { n: 1 }, found: { plate: 2 } });
    expect(hook.result.current.before).toBe(true);
    await pass(130);
    await act(async () => asked[1]?.answer({ verdict: "act" }));
    expect(asked[1]?.found).toEqual({ plate: 2 });
    expect([hook.result.current.answer?.verdict, hook.result.current.before]).toEqual(["act", false]);
  });
  it("stops the earlier request and never shows its answer", async () => {
    const hook = judged({ n: 1 });
    await pass(130);
    hook.rerender({ found: { plate: 1 }, body: { n: 2 } });
    expect(asked[0]?.signal.aborted).toBe(true);
    await pass(130);
    await act(async () => {
      asked[0]?.answer({ verdict: "stop" });
      asked[1]?.answer({ verdict: "good" });
    });
    expect(hook.result.current.answer?.verdict).toBe("good");
    expect(hook.result.current.error).toBeNull();
  });
  it("keeps the last answer, marked as the one before, while another is on its way", async () => {
    const hook = judged({ n: 1 });
    await pass(130);
    await act(async () => asked[0]?.answer({ verdict: "watch" }));
    expect(hook.result.current.before).toBe(false);
    hook.rerender({ found: { plate: 1 }, body: { n: 2 } });
    expect([hook.result.current.before, hook.result.current.answer?.verdict]).toEqual([true, "watch"]);
  });
  it("asks anew for a reader in other units, and says until then that the answer is not for them", async () => {
    const hook = judged({ n: 1 });
    await pass(130);
    await act(async () => asked[0]?.answer({ verdict: "watch" }));
    reader = { ...reader, units: { current: "mA" } };
    hook.rerender({ found: { plate: 1 }, body: { n: 1 } });
    expect(hook.result.current.before).toBe(true);
    await pass(130);
    expect(asked).toHaveLength(2);
  });
  it("does not ask again for the same figures", async () => {
    const hook = judged({ n: 1 });
    await pass(130);
    hook.rerender({ found: { plate: 1 }, body: { n: 1 } });
    await pass(400);
    expect(asked).toHaveLength(1);
  });
  it("asks again by itself when nobody answered, and not when it was refused", async () => {
    const hook = judged({ n: 1 });
    await pass(130);
    await act(async () => asked[0]?.fail(new ApiError(0, "no_connection", "No connection.")));
    expect(hook.result.current.error?.message).toBe("No connection.");
    await pass(3100);
    await pass(200);
    expect(asked).toHaveLength(2);
    await act(async () => asked[1]?.fail(new ApiError(403, "forbidden", "No.")));
    await pass(9000);
    expect(asked).toHaveLength(2);
    act(() => hook.result.current.ask());
    await pass(130);
    expect(asked).toHaveLength(3);
  });
});
