/** What changed in a verdict, for who hears the page: the change alone, once the hand rests. */
import { useEffect, useRef, useState } from "react";
import type { Shown } from "../../base";

const REST_MS = 700;
type Told = Map<string, string>;
const told = (answer: Shown): Told =>
  new Map(
    answer.findings.map((f) => [
      `${f.question}/${f.subject}`,
      `${f.title}: ${f.unknown ? "unknown" : f.verdict}`,
    ]),
  );

/** Each answer that is new or says otherwise than before; each that is not there any more. */
export function newsOf(before: Told, now: Told): string[] {
  const fresh = [...now].filter(([question, says]) => before.get(question) !== says).map(([, says]) => says);
  const gone = [...before].filter(([question]) => !now.has(question));
  return [...fresh, ...gone.map(([, says]) => `${says.split(":")[0]}: no answer any more`)];
}

export function VerdictNews({ answer, before }: { answer: Shown | null; before: boolean }) {
  const heard = useRef<Told>(new Map());
  const [says, setSays] = useState("");
  useEffect(() => {
    if (!answer || before) return undefined;
    const timer = setTimeout(() => {
      const now = told(answer);
      const news = newsOf(heard.current, now);
      heard.current = now;
      if (news.length) setSays(news.join(". "));
    }, REST_MS);
    return () => clearTimeout(timer);
  }, [answer, before]);
  return (
    <p className="visually-hidden" role="status" data-testid="verdict-news">
      {says}
    </p>
  );
}
