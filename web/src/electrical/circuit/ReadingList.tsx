/** Every reading of the walk in its order, with the state it was taken in: taken back by whoever may. */
import { dayTime, small, useMe } from "../../base";
import type { View } from "./layout";
import css from "./drawing.module.scss";

interface Props {
  view: Pick<View, "readings">;
  zone: string;
  onUndo: ((uuid: string) => void) | null;
}
export function ReadingList({ view, zone, onUndo }: Props) {
  const { locale } = useMe();
  if (!view.readings.length) return null;
  return (
    <details className="spared" open={view.readings.some((r) => !r.used)}>
      <summary>Readings: {view.readings.length}</summary>
      <ol className={css.readings}>
        {view.readings.map((r) => (
          <li key={r.uuid} className={r.used ? "" : css.unused} data-used={r.used}>
            <span>
              {r.title}
              <small className="mute">
                {r.state}, {dayTime(r.at, zone, locale)}
                {r.by && `, ${r.by}`}
              </small>
              {r.notes.map((n) => (
                <small key={n}>{n}</small>
              ))}
            </span>
            <span>
              <b className="mono">{r.figure.shown}</b> <span className="mute">{r.word}</span>
            </span>
            {onUndo && !r.uuid.startsWith("typed") && (
              <button className={`linklike ${small.below}`} onClick={() => onUndo(r.uuid)}>
                Remove
              </button>
            )}
          </li>
        ))}
      </ol>
    </details>
  );
}
