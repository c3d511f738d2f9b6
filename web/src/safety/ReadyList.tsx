/** What must be on record before a set is energised after a fault: each line with its record, or where it is done. */
import { Link } from "react-router";
import { benchPath, useBenches } from "../base";
import type { SetOut } from "../plant";
import { useSetSafety } from "./queries";
import css from "./safety.module.scss";

export function ReadyList({ set }: { set: SetOut }) {
  const lines = useSetSafety(set.id).data?.ready ?? [];
  const doors = useBenches().data ?? [];
  if (!lines.length) return null;
  const left = lines.filter((x) => !x.done).length;
  return (
    <section className="ruled" aria-labelledby="ready-title" data-testid="ready">
      <h2 id="ready-title">Before it is energised</h2>
      <p className="mute">
        {left
          ? `A fuse blew: ${left} of ${lines.length} are not on record yet.`
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
