/** The year by its load: hours at a share of the flow, and what each way of giving it takes. */
import type { EntryBody, Schemas } from "../../base";
import { NamedFigure } from "../../safety";
import { rowsOf } from "../rows";
import css from "../water.module.scss";

export function Year({
  view,
  body,
}: {
  view: Schemas["ShownThrottleView"] | null;
  body: EntryBody<"throttle">;
}) {
  const rows = rowsOf(body, "profile");
  const year = view?.year;
  return (
    <details className={css.more} open={rows.length > 0 || undefined}>
      <summary>Energy over a year, by load</summary>
      {[...rows, {}].map((_, i) => (
        <div key={i} className={css.row}>
          <NamedFigure name={`profile.${String(i)}.hours`} label="hours" />
          <NamedFigure name={`profile.${String(i)}.share`} label="at this share of the flow" />
        </div>
      ))}
      {year && (
        <dl className={css.figures} data-year>
          <div>
            <dt>by speed</dt>
            <dd className="mono">{year.speed.shown}</dd>
            <dd className="mono mute">{year.speed_money?.shown}</dd>
          </div>
          {year.valve && (
            <div>
              <dt>by valve</dt>
              <dd className="mono">{year.valve.shown}</dd>
              <dd className="mono mute">{year.valve_money?.shown}</dd>
            </div>
          )}
          <div>
            <dt>wide open</dt>
            <dd className="mono">{year.open.shown}</dd>
            <dd className="mono mute">{year.open_money?.shown}</dd>
          </div>
        </dl>
      )}
    </details>
  );
}
