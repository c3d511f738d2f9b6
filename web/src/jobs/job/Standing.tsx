/** What stands on the set that a job may be opened because of: verdicts, calls, checks that are over their day. */
import { VerdictShape, type Schemas } from "../../base";
import { useSetState } from "../../logbook";
import { useSetSafety } from "../../safety";
import css from "./beside.module.scss";

interface Reason {
  from: string;
  of: string;
  says: string;
  verdict: Schemas["Verdict"];
}

export function Standing({
  setId,
  of,
  take,
}: {
  setId: number;
  of: string;
  take: (from: string, of: string, says: string) => void;
}) {
  const state = useSetState(setId).data;
  const safety = useSetSafety(setId).data;
  const wrong = (state?.parts ?? [])
    .flatMap((p) => p.answers)
    .filter((a) => a.verdict !== "good" && a.verdict !== "unknown");
  const reasons: Reason[] = [
    ...wrong.map((a) => ({
      from: "verdict",
      of: `${a.question}/${a.subject}`,
      says: `${a.title}: ${a.verdict}`,
      verdict: a.verdict,
    })),
    ...(safety?.matters ?? []).map((m) => ({
      from: "call",
      of: String(m.id),
      says: m.calls.at(-1)?.title ?? "",
      verdict: m.verdict,
    })),
    ...(state?.due ?? [])
      .filter((d) => d.overdue)
      .map((d) => ({ from: "due", of: d.bench, says: `${d.title} overdue`, verdict: "act" as const })),
  ];
  if (!reasons.length) return null;
  return (
    <ul className={css.standing} aria-label="Open on this set">
      {reasons.map((r) => (
        <li key={r.from + r.of}>
          <button
            type="button"
            className={`linklike v-${r.verdict}`}
            aria-pressed={r.of === of}
            data-because={r.from}
            onClick={() => take(r.from, r.of, r.says)}
          >
            <VerdictShape verdict={r.verdict} size={13} /> {r.says}
          </button>
        </li>
      ))}
    </ul>
  );
}
