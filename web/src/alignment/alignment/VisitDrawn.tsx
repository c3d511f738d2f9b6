/** A visit on record: as found and as left drawn, every pass beside the others. */
import type { Schemas } from "../../base";
import { PassStrip } from "./PassStrip";
import { ShaftDrawing } from "./shafts";
import css from "./drawing.module.scss";

export function VisitDrawn({ record }: { record: Schemas["RecordOut"] }) {
  const { passes } = record.evaluation.view as Schemas["ShownAlignmentView"];
  const ends = passes.length > 1 ? [passes[0]!, passes.at(-1)!] : passes;
  if (!passes.length) return null;
  return (
    <section className={`ruled ${css.visitdrawn}`} aria-label="Shafts as found and as left">
      <div className={css.ends}>
        {ends.map((p) => (
          <div key={p.uuid}>
            <h2 className={css.planhead}>{p.title}</h2>
            {p.shafts.map((s) => (
              <ShaftDrawing key={s.view} shaft={s} title={s.view === "side" ? "Side view" : "Top view"} />
            ))}
          </div>
        ))}
      </div>
      {passes.length > 1 && (
        <PassStrip passes={passes} kept={new Set(passes.map((p) => p.uuid))} onUndo={null} />
      )}
    </section>
  );
}
