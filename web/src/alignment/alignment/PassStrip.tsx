/** The passes of a visit side by side: they must come closer. */
import type { Schemas } from "../../base";
import { VerdictShape } from "../../base";
import css from "./drawing.module.scss";

type Pass = Schemas["ShownPassView"];
const FIGURES: [string, string][] = [
  ["offset_v", "vertical offset"],
  ["angle_v", "vertical angularity"],
  ["offset_h", "horizontal offset"],
  ["angle_h", "horizontal angularity"],
];

export function PassStrip({
  passes,
  onUndo,
  kept,
}: {
  passes: Pass[];
  onUndo: ((uuid: string) => void) | null;
  kept: Set<string>;
}) {
  if (!passes.length) return null;
  return (
    <ol className={css.passstrip} aria-label="Readings of this alignment">
      {passes.map((p) => (
        <li key={p.uuid} data-pass={p.title} className={kept.has(p.uuid) ? "" : "pencil"}>
          <h3>
            {p.verdict && <VerdictShape verdict={p.verdict} />} {p.title}{" "}
            {!kept.has(p.uuid) && <span className="mute">not saved yet</span>}
          </h3>
          <dl>
            {FIGURES.map(
              ([n, label]) =>
                p.values[n] && (
                  <div key={n}>
                    <dt>{label}</dt>
                    <dd className="mono">{p.values[n].figure}</dd>
                  </div>
                ),
            )}
          </dl>
          {p.says.map((s) => (
            <p key={s} className="v-act">
              {s}
            </p>
          ))}
          {onUndo && kept.has(p.uuid) && (
            <button className="linklike" onClick={() => onUndo(p.uuid)}>
              Remove
            </button>
          )}
        </li>
      ))}
    </ol>
  );
}
