/** A walk on record: the ladder with everything that was read, and what it left. */
import { useNarrow, type Schemas } from "../../base";
import { Ladder } from "./Ladder";
import { layoutOf, type View } from "./layout";
import { Left } from "./Left";
import css from "./drawing.module.scss";

export function WalkDrawn({ record }: { record: Schemas["RecordOut"] }) {
  const view = record.evaluation.view as View;
  const narrow = useNarrow();
  if (!view.rungs.length) return null;
  const width = narrow ? Math.min(358, window.innerWidth - 32) : 560;
  const layout = layoutOf(view.rungs, view.legs.length, width, view.ground);
  return (
    <section className={`ruled ${css.bench}`} aria-label="Circuit as read">
      <Ladder view={view} layout={layout} label={`${view.title}, as read`} />
      <div>
        <Left view={view} />
      </div>
    </section>
  );
}
