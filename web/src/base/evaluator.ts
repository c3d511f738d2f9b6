/** The one seam through which a sheet is judged: HTTP now, a worker in the browser later. */
import { useEffect, useMemo, useRef, useState } from "react";
import type { BenchName, Body, EntryBody, ShownBy } from "./address";
import { ApiError, send, type Schemas } from "./client";
import { useMe } from "./session";
import { awaited } from "./components/Settled";
import type { SheetEntry } from "./sheets";

/** What a bench is asked: its entries, as its own address types them. */
export type Asked<N extends BenchName = BenchName> = Omit<
  Body<`/api/v1/benches/${BenchName}/evaluate`, "POST">,
  "entries"
> & { entries: SheetEntry<EntryBody<N>>[] };
/** The answer of whichever bench; `view` is its own drawing data. */
export type Shown<V = unknown> = Omit<Schemas["ShownEvaluationNoView"], "view"> & { view: V };
/** The answer of this bench. */
export type ShownOf<N extends BenchName> = Shown<ShownBy<N>["view"]>;
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

const AGAIN_MS = 3000;
/** An answer, and the question that it answers. */
interface Answered<V> {
  to: string;
  shown: Shown<V>;
}

/** What is known of the answer: it, whether it is of the figures before, what went wrong, and how to ask again. */
export interface Evaluated<V> {
  answer: Shown<V> | null;
  before: boolean;
  error: ApiError | null;
  ask: () => void;
}
/**
 * The answer to the newest figures, on a set that stands as it was `found`: when the set is told anew, it is asked anew.
 * While another is on its way the last one stays, marked `before`.
 */
export function useEvaluation<N extends BenchName>(
  bench: N,
  body: Asked<N>,
  found: unknown,
  evaluator: Evaluator = httpEvaluator,
): Evaluated<ShownOf<N>["view"]> {
  const { units, locale } = useMe();
  const [answered, setAnswered] = useState<Answered<ShownOf<N>["view"]> | null>(null);
  const [error, setError] = useState<ApiError | null>(null);
  const [turn, setTurn] = useState(0);
  const asked = useRef(0);
  const standing = useMemo(() => JSON.stringify(found ?? null), [found]);
  const latest = useRef(found);
  useEffect(() => {
    latest.current = found;
  });
  const question = JSON.stringify({ bench, body, reader: { units, locale } });
  const text = `${question}\n${standing}`;
  useEffect(() => {
    const mine = ++asked.current;
    const stop = new AbortController();
    let again: ReturnType<typeof setTimeout>;
    const asks = JSON.parse(question) as Omit<Question, "case">;
    // Asked before the key itself is drawn: what is drawn meanwhile is not waited for.
    evaluator
      .evaluate({ ...asks, case: latest.current }, stop.signal)
      .then((fresh) => {
        if (mine !== asked.current) return;
        setAnswered({ to: text, shown: fresh as ShownOf<N> });
        setError(null);
      })
      .catch((e: unknown) => {
        if (mine !== asked.current || (e instanceof DOMException && e.name === "AbortError")) return;
        const failure = e instanceof ApiError ? e : new ApiError(0, "failed", String(e));
        setError(failure);
        if (failure.again) again = setTimeout(() => setTurn((n) => n + 1), AGAIN_MS);
      });
    return () => {
      clearTimeout(again);
      stop.abort();
    };
  }, [text, question, evaluator, turn]);
  // A page is not whole without its first verdict.
  const first = answered === null && error === null;
  useEffect(() => (first ? awaited() : undefined), [first]);
  const before = answered?.to !== text;
  return { answer: answered?.shown ?? null, before, error, ask: () => setTurn((n) => n + 1) };
}
