/** The rail of steps: done ones ticked, the one in hand open, hold points as double bars across it. */
import { useNarrow } from "../../base";
import type { View } from "./useJob";
import css from "./job.module.scss";

interface Props {
  view: View;
  at: string;
  folded: boolean;
  choose: (id: string) => void;
}
const SIGN: Record<string, string> = { done: "✓", skipped: "–", now: "", open: "", later: "" };

export function Rail({ view, at, folded, choose }: Props) {
  const narrow = useNarrow();
  const list = (
    <ol className={css.rail} aria-label="Steps">
      {view.steps.map((s) => (
        <li key={s.id} data-step={s.id} data-state={s.state} data-hold={s.hold ? true : undefined}>
          <button type="button" aria-current={s.id === at ? "step" : undefined} onClick={() => choose(s.id)}>
            <span className={css.sign} aria-hidden="true">
              {SIGN[s.state]}
            </span>
            <span className="mono">{s.n}</span>
            <span>{s.title}</span>
            {s.hold && <span className="visually-hidden">, hold point</span>}
          </button>
        </li>
      ))}
    </ol>
  );
  const left = view.left_out.length > 0 && (
    <details className={css.leftout}>
      <summary>{view.left_out.length} steps left out</summary>
      <ul>
        {view.left_out.map((x) => (
          <li key={x.id} data-left-out={x.id}>
            {x.title}: <span className="mute">{x.why}</span>
          </li>
        ))}
      </ul>
    </details>
  );
  if (folded && narrow)
    return (
      <details className={css.foldrail}>
        <summary>All steps</summary>
        {list}
        {left}
      </details>
    );
  return (
    <div className={css.railcol}>
      {list}
      {left}
    </div>
  );
}
