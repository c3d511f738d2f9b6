/** Nine currents of leads rolled from line to line: each roll a row, with the lead that is on each line. */
import type { Schemas } from "../../base";
import { NamedFigure } from "../../safety";
import css from "./drawing.module.scss";

const THREE = [1, 2, 3];
export const ROLLS = THREE.flatMap((roll) => THREE.map((line) => `roll_${roll}_${line}`));
const LEADS = "ABC";

export function Rolls({ view, open }: { view: Schemas["ShownLeadsView"] | undefined; open: boolean }) {
  return (
    <details className={css.rolls} open={open}>
      <summary>Roll the leads: is it the supply or the motor?</summary>
      <p className="mute">
        Currents while it runs. After each roll isolate, prove dead, and move all three leads on by one line:
        A from L1 to L3, B to L1, C to L2. It turns the same way.
      </p>
      {THREE.map((roll) => (
        <div key={roll} className={css.roll} role="group" aria-label={`Roll ${roll}`}>
          {THREE.map((line) => (
            <NamedFigure
              key={line}
              name={`roll_${roll}_${line}`}
              label={`L${line}, lead ${LEADS[(line + roll - 2) % 3]}`}
            />
          ))}
        </div>
      ))}
      {view && view.by_line.length > 0 && (
        <p data-rolled>
          Mean by line: {view.by_line.map((q, i) => `L${i + 1} ${q.shown}`).join(", ")}. By lead:{" "}
          {view.by_lead.map((q, i) => `${LEADS[i]} ${q.shown}`).join(", ")}.
        </p>
      )}
    </details>
  );
}
