/** A running or discharging test above every page, whoever started it. */
import { Link } from "react-router";
import { useGet, useSession, type Schemas } from "../../base";
import { markNow, watch } from "./logic";
import { useTick } from "./Stopwatch";
import css from "./drawing.module.scss";

type Clock = Schemas["RunClock"];

export function RunningStrip() {
  const { now, me } = useSession();
  const running = useGet("/api/v1/sheets/running", me ? {} : null);
  const list = running.data ?? [];
  useTick(list.length > 0);
  const t = now().getTime();
  return (
    <>
      {list.flatMap((s) =>
        s.clocks
          .filter((c) => !c.discharged_at)
          .map((c) => (
            <div className={`strip ${css.runstrip}`} key={s.sheet + c.name} data-testid="runstrip">
              <Link to={`/sets/${s.set_id}/insulation`}>
                <span className="mono">{s.tag}</span>{" "}
                {c.name === "all" ? "insulation" : `insulation ${c.name}`}
              </Link>
              <Says clock={c} t={t} />
              <span className={css.by}>{s.by}</span>
            </div>
          )),
      )}
    </>
  );
}
function Says({ clock: c, t }: { clock: Clock; t: number }) {
  if (!c.started_at) return null;
  if (!c.ended_at) {
    const elapsed = (t - Date.parse(c.started_at)) / 1000;
    const { due, next } = markNow(c.marks ?? [], c.taken_s ?? [], elapsed);
    return (
      <span>
        <span className="mono">{watch(elapsed)}</span>{" "}
        {due !== null ? (
          <strong>read now</strong>
        ) : next !== null ? (
          `next at ${watch(next)}`
        ) : (
          "all reading times passed"
        )}
      </span>
    );
  }
  const left = c.discharge_until ? (Date.parse(c.discharge_until) - t) / 1000 : 0;
  return left > 0 ? (
    <span>
      discharging, <span className="mono">{watch(left)}</span> to go: keep leads grounded
    </span>
  ) : (
    <span>discharge time over: take the leads off, then confirm</span>
  );
}
