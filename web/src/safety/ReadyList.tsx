/**
 * What must be on record before a set is energised, after a fault or before a first start: each line with
 * its record, or where it is done.
 */
import { Link } from "react-router";
import { benchPath, useBenches, type Schemas } from "../base";
import type { SetOut } from "../plant";
import { useSetSafety } from "./queries";
import css from "./safety.module.scss";

export function ReadyList({ set }: { set: SetOut }) {
  const every = useSetSafety(set.id).data?.ready ?? [];
  return [...new Set(every.map((x) => x.list))].map((list) => (
    <One key={list} set={set} lines={every.filter((x) => x.list === list)} />
  ));
}
type Line = Schemas["ReadyOut"];
function One({ set, lines }: { set: SetOut; lines: readonly Line[] }) {
  const doors = useBenches().data ?? [];
  const left = lines.filter((x) => !x.done).length;
  const list = lines[0]?.list ?? "";
  return (
    <section className="ruled" aria-labelledby={`ready-${list}`} data-testid="ready" data-list={list}>
      <h2 id={`ready-${list}`}>
        {lines[0]?.blocks ? "Before it is energised" : "Due since the motor came in"}
      </h2>
      <p className="mute">
        {left
          ? `${lines[0]?.heading ?? ""}: ${left} of ${lines.length} are not on record yet.`
          : "All lines are on record. One trial only, watched; local codes and licensed practice decide."}
      </p>
      <ul className={css.ready}>
        {lines.map((x) => (
          <li key={x.id} data-line={x.id} data-done={x.done}>
            <span aria-hidden="true">{x.done ? "■" : "□"}</span>
            <span>
              <strong>{x.title}</strong> <span className="mute">{x.says}</span>
            </span>
            {x.done && x.record ? (
              <Link to={`/records/${x.record}`}>Record</Link>
            ) : x.bench ? (
              <Link className="btn-line" to={benchPath(set.id, x.bench)}>
                {doors.find((b) => b.name === x.bench)?.offer ?? "Open"}
              </Link>
            ) : x.done ? null : (
              <Link className="btn-line" to={`/sets/${set.id}/parts`}>
                Nameplate
              </Link>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
