/** The one seam through which a sheet is judged: HTTP now, a worker in the browser later. */
import { useEffect, useRef, useState } from "react";
import type { BenchName, Body } from "./address";
import { ApiError, send, type Schemas } from "./client";
import { useMe } from "./session";

/** What a bench is asked: its entries, each kind of which the bench types by itself. */
type Asked = Omit<Body<`/api/v1/benches/${BenchName}/evaluate`, "POST">, "entries"> & { entries: object[] };
/** The answer of a bench; `view` is its own drawing data. */
export type Shown<V = unknown> = Omit<Schemas["ShownEvaluationNoView"], "view"> & { view: V };
/** One question: this bench, these entries, on a set that stands like this, for a reader like this. */
export interface Question {
  bench: BenchName;
  body: Asked;
  /** How the set stands as far as this device knows; over HTTP the server takes its own, which is newer. */
  case: unknown;
  reader: { units: Record<string, string>; locale: string };
}
export interface Evaluator {
  evaluate(question: Question, signal: AbortSignal): Promise<Shown>;
}
export const httpEvaluator: Evaluator = {
  evaluate: ({ bench, body }, signal) =>
    send("POST", `/api/v1/benches/${bench}/evaluate`, body, signal) as Promise<Shown>,
};

const PAUSE_MS = 30;
const AGAIN_MS = 3000;
/** An answer, and the question that it answers. */
interface Answered<V> {
  to: string;
  shown: Shown<V>;
}

/** The answer to the newest figures. While another is on its way the last one stays, marked `before`. */
export function useEvaluation<V = unknown>(
  bench: BenchName,
  body: Asked,
  evaluator: Evaluator = httpEvaluator,
  found: unknown = null,
) {
  const { units, locale } = useMe();
  const [answered, setAnswered] = useState<Answered<V> | null>(null);
  const [error, setError] = useState<ApiError | null>(null);
  const [turn, setTurn] = useState(0);
  const asked = useRef(0);
  const text = JSON.stringify({ bench, body, reader: { units, locale } });
  const standing = useRef(found);
  useEffect(() => {
    standing.current = found;
  });
  useEffect(() => {
    const mine = ++asked.current;
    const stop = new AbortController();
    let again: ReturnType<typeof setTimeout>;
    const timer = setTimeout(() => {
      const question = { ...(JSON.parse(text) as Omit<Question, "case">), case: standing.current };
      evaluator
        .evaluate(question, stop.signal)
        .then((fresh) => {
          if (mine !== asked.current) return;
          setAnswered({ to: text, shown: fresh as Shown<V> });
          setError(null);
        })
        .catch((e: unknown) => {
          if (mine !== asked.current || (e instanceof DOMException && e.name === "AbortError")) return;
          const failure = e instanceof ApiError ? e : new ApiError(0, "failed", String(e));
          setError(failure);
          if (failure.again) again = setTimeout(() => setTurn((n) => n + 1), AGAIN_MS);
        });
    }, PAUSE_MS);
    return () => {
      clearTimeout(timer);
      clearTimeout(again);
      stop.abort();
    };
  }, [text, evaluator, turn]);
  const before = answered?.to !== text;
  return { answer: answered?.shown ?? null, before, error, ask: () => setTurn((n) => n + 1) };
}
