import { act, cleanup, render, screen } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Shown } from "../../base";
import { newsOf, VerdictNews } from "./VerdictNews";

const answer = (...findings: [string, string][]) =>
  ({
    findings: findings.map(([question, verdict]) => ({ question, title: question, verdict })),
  }) as never as Shown;
beforeEach(() => void vi.useFakeTimers());
afterEach(() => {
  cleanup();
  vi.useRealTimers();
});
const rest = (ms = 1000) => act(async () => void (await vi.advanceTimersByTimeAsync(ms)));
const heard = () => screen.getByRole("status").textContent;

describe("what is heard of a verdict", () => {
  it("is what changed, and nothing of what stands as it stood", async () => {
    const { rerender } = render(
      <VerdictNews answer={answer(["load", "good"], ["voltage", "good"])} before={false} />,
    );
    await rest();
    expect(heard()).toBe("load: good. voltage: good");
    rerender(<VerdictNews answer={answer(["load", "act"], ["voltage", "good"])} before={false} />);
    await rest();
    expect(heard()).toBe("load: act");
  });
  it("waits until the hand rests, and never reads an answer to the figures before", async () => {
    const { rerender } = render(<VerdictNews answer={answer(["load", "good"])} before={false} />);
    await rest(300);
    rerender(<VerdictNews answer={answer(["load", "watch"])} before />);
    await rest();
    expect(heard()).toBe("");
    rerender(<VerdictNews answer={answer(["load", "watch"])} before={false} />);
    await rest();
    expect(heard()).toBe("load: watch");
  });
  it("says when a question has no answer any more", () => {
    expect(newsOf(new Map([["load", "Load: good"]]), new Map())).toEqual(["Load: no answer any more"]);
  });
});
