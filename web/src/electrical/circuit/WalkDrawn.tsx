/** A walk on record: the ladder with everything that was read, and what it left. */
import { useNarrow, type Schemas } from "../../base";
import { Ladder } from "./Ladder";
import { layoutOf, stageWidth, type View } from "./layout";
import { Left } from "./Left";
import css from "./drawing.module.scss";

export function WalkDrawn({ record }: { record: Schemas["RecordOut"] }) {
  const view = record.evaluation.view as View;
  const narrow = useNarrow();
  if (!view.rungs.length) return null;
  const width = stageWidth(narrow, view.paths.length);
  const layout = layoutOf(view.rungs, view.legs.length, width, { grounded: view.ground, paths: view.paths });
  return (
    <section className={`ruled ${css.bench}`} aria-label="Circuit as read">
      <Ladder view={view} layout={layout} label={`${view.title}, as read`} />
      <div>
        <Left view={view} />
      </div>
    </section>
  );
}
