/** The one seam through which a sheet is judged: HTTP now, a worker in the browser later. */
import { useEffect, useRef, useState } from "react";
import type { BenchName, Body } from "./address";
import { ApiError, send, type Schemas } from "./client";

/** What a bench is asked: its entries, each kind of which the bench types by itself. */
type Asked = Omit<Body<`/api/v1/benches/${BenchName}/evaluate`, "POST">, "entries"> & { entries: object[] };
/** The answer of a bench; `view` is its own drawing data. */
export type Shown<V = unknown> = Omit<Schemas["ShownEvaluationNoView"], "view"> & { view: V };
export interface Evaluator {
  evaluate(bench: string, body: unknown, signal: AbortSignal): Promise<Shown>;
}
export const httpEvaluator: Evaluator = {
  evaluate: (bench, body, signal) =>
    send("POST", `/api/v1/benches/${bench}/evaluate`, body, signal) as Promise<Shown>,
};

const PAUSE_MS = 120;

/** The answer to the newest figures. While another is on its way the last one stays, marked `before`. */
export function useEvaluation<V = unknown>(
  bench: BenchName,
  body: Asked,
  evaluator: Evaluator = httpEvaluator,
) {
  const [answer, setAnswer] = useState<Shown<V> | null>(null);
  const [before, setBefore] = useState(false);
  const [error, setError] = useState<ApiError | null>(null);
  const [turn, setTurn] = useState(0);
  const asked = useRef(0);
  const text = JSON.stringify(body);
  useEffect(() => {
    const mine = ++asked.current;
    const stop = new AbortController();
    setBefore(true);
    const timer = setTimeout(() => {
      evaluator
        .evaluate(bench, JSON.parse(text), stop.signal)
        .then((fresh) => {
          if (mine !== asked.current) return;
          setAnswer(fresh as Shown<V>);
          setBefore(false);
          setError(null);
        })
        .catch((e: unknown) => {
          if (mine !== asked.current || (e instanceof DOMException && e.name === "AbortError")) return;
          const failure = e instanceof ApiError ? e : new ApiError(0, "failed", String(e));
          setError(failure);
          if (failure.again) setTimeout(() => mine === asked.current && setTurn((n) => n + 1), 3000);
        });
    }, PAUSE_MS);
    return () => {
      clearTimeout(timer);
      stop.abort();
    };
  }, [bench, text, evaluator, turn]);
  return { answer, before, error, ask: () => setTurn((n) => n + 1) };
}
