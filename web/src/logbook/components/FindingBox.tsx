/** One finding: what, why, its margin; opened, its rule. */
import { useId, useState, memo } from "react";
import { byWord, MarginLine, small, useNarrow, VerdictShape } from "../../base";
import type { ShownFinding } from "../queries";
import css from "../logbook.module.scss";

const CERTAIN: Record<string, string> = {
  standard: "published standard",
  handbook: "published handbook",
  practice: "common practice",
  maker: "nameplate or manufacturer",
};
/** What an unknown waits for: figures, or another way of reading them. */
const WHY_UNKNOWN: Record<NonNullable<ShownFinding["unknown"]>, string> = {
  incomplete: "data missing",
  inconclusive: "test cannot tell",
};
/** Source and certainty in one breath. */
export const sourced = (s: { source: string; certainty: string; from_memory: boolean }) =>
  s.certainty === "practice" ? s.source : `${s.source} (${sureness(s)})`;
const sureness = (s: { certainty: string; from_memory: boolean }) =>
  (CERTAIN[s.certainty] ?? s.certainty) + (s.from_memory ? ", quoted from memory" : "");

export const FindingBox = memo(function FindingBox({
  finding: f,
  quiet = false,
}: {
  finding: ShownFinding;
  quiet?: boolean;
}) {
  const [open, setOpen] = useState(false);
  const narrow = useNarrow();
  const id = useId();
  const overridden = f.limits.filter((l) => l.override);
  return (
    <article className={css.finding} data-question={f.question} data-verdict={f.verdict}>
      <button
        className={`${css.ftitle} v-${f.verdict}`}
        aria-expanded={open}
        aria-controls={id}
        onClick={() => setOpen(!open)}
      >
        <VerdictShape verdict={f.verdict} /> {f.title}: {f.verdict}
        {f.unknown ? `: ${WHY_UNKNOWN[f.unknown]}` : ""}
        {f.beside ? `, beside it ${f.beside}` : ""}
        {f.by ? `, ${byWord(f.by)}` : ""}
      </button>
      <p className={css.why}>{f.reason}</p>
      {f.line && !quiet && (
        <div className={css.meta}>
          <MarginLine line={f.line} verdict={f.verdict} width={narrow ? 330 : 390} />
          <span className={css.src}>
            {f.source}
            {f.from_memory ? ", quoted from memory" : ""}
          </span>
        </div>
      )}
      {overridden.map((l) => (
        <p className={css.why} key={l.id}>
          <strong>
            ✎ {l.title}: {l.shown}
          </strong>{" "}
          instead of {l.published}, set by {l.override?.by}: “{l.override?.reason}”
        </p>
      ))}
      {(!quiet || open) && f.notes.length > 0 && (
        <ul className="notes">
          {f.notes.map((n) => (
            <li key={n}>{n}</li>
          ))}
        </ul>
      )}
      {open && <RuleBox id={id} finding={f} />}
    </article>
  );
});

function RuleBox({ id, finding: f }: { id: string; finding: ShownFinding }) {
  return (
    <div className="rulebox" id={id}>
      <dl>
        <dt>Formula</dt>
        <dd>{f.formula}</dd>
        {f.working.map((w, i) => [
          <dt key={`t${w}`}>{i ? "" : "With these readings"}</dt>,
          <dd key={w} className={`mono ${small.smaller}`}>
            {w}
          </dd>,
        ])}
        {f.limits.map((l) => [
          <dt key={`t${l.id}`}>Limit</dt>,
          <dd key={l.id}>
            {l.title}: <span className="mono">{l.shown}</span> <span className="mute">{sourced(l)}</span>
          </dd>,
        ])}
        <dt>Why</dt>
        <dd>{f.why}</dd>
        <dt>Source</dt>
        <dd>{sourced(f)}</dd>
      </dl>
    </div>
  );
}
