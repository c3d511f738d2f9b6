/** Before and after side by side: what is proved, what is not read yet. */
import { VerdictWord } from "../../base";
import type { View } from "./useJob";
import css from "./job.module.scss";

export function ProofPage({ view }: { view: View }) {
  return (
    <section aria-label="Proof">
      <h2>Proof</h2>
      <p className="mute">A job without its proof is unfinished. What was touched decides what is proved.</p>
      <ol className={css.proofs}>
        {view.proof.map((p) => (
          <li key={p.step} data-proof-row={p.step} data-verdict={p.verdict ?? "none"}>
            <svg viewBox="0 0 20 20" aria-hidden="true">
              <path d={p.done ? "M3 10l5 6L18 3" : "M3 3h14v14H3Z"} />
            </svg>
            <strong>{p.title}</strong>
            {p.verdict ? (
              <span>
                <VerdictWord verdict={p.verdict} /> {p.says}
              </span>
            ) : (
              <span className="mute">not read yet</span>
            )}
          </li>
        ))}
      </ol>
      {view.restarts && <p>Then restarts, in order: {view.restarts}.</p>}
    </section>
  );
}
