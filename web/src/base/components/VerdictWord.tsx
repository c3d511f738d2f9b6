/** A verdict's shape and its word. */
import small from "../small.module.scss";
const WORDS: Record<string, string> = {
  good: "good",
  watch: "watch",
  act: "act",
  stop: "stop",
  unknown: "unknown",
};
const BY: Record<string, string> = {
  now: "now",
  this_shift: "this shift",
  this_week: "this week",
  next_stop: "at next shutdown",
};

export const byWord = (by: string | null | undefined) => (by ? (BY[by] ?? "") : "");

export function VerdictShape({ verdict, size = 16 }: { verdict: string; size?: number }) {
  return (
    <svg className={`v-${verdict}`} width={size} height={size} viewBox="0 0 16 16" aria-hidden="true">
      <g fill="none" stroke="currentColor" strokeWidth={2}>
        {verdict === "good" && <path d="M3 12h10" />}
        {verdict === "watch" && <path d="M2.5 4h11L8 12.5z" />}
        {verdict === "act" && <path d="M2.5 4h11L8 12.5z" fill="currentColor" />}
        {verdict === "stop" && <path d="M8 1.5v13M4 1.5h8M4 14.5h8" strokeWidth={2.6} />}
        {verdict === "unknown" && <path d="M2 2h12v12H2z" strokeDasharray="3 2" strokeWidth={1.4} />}
      </g>
      {verdict === "unknown" && (
        <text x={8} y={12} fontSize={10} textAnchor="middle" fill="currentColor">
          ?
        </text>
      )}
    </svg>
  );
}
export function VerdictWord({ verdict, beside }: { verdict: string; beside?: string | null | undefined }) {
  return (
    <span className={`v-${verdict} ${small.word}`}>
      <VerdictShape verdict={verdict} /> {WORDS[verdict] ?? verdict}
      {beside ? <span className={`v-${beside}`}>{` and ${WORDS[beside] ?? beside}`}</span> : null}
    </span>
  );
}
