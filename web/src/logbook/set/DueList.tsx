/** Which check is due when; each leads to its bench. */
import { Link } from "react-router";
import { becausePath, benchPath, day, useMe, useSession, type Schemas } from "../../base";
import css from "./set.module.scss";

type Due = Schemas["DueOut"];

/** How far off a day is, to be taken in at a glance. */
export function apart(at: string, now: Date): string {
  const days = Math.round((Date.parse(at) - now.getTime()) / 86_400_000);
  if (days === 0) return "today";
  const said = Math.abs(days) === 1 ? "1 day" : `${Math.abs(days)} days`;
  return days < 0 ? `${said} over` : said;
}

export function DueList({
  setId,
  due,
  zone,
  may,
  id = "due-title",
}: {
  setId: number;
  due: Due[];
  zone: string;
  may: boolean;
  id?: string;
}) {
  const me = useMe();
  const { now } = useSession();
  if (!due.length) return null;
  return (
    <section aria-labelledby={id} className={css.due}>
      <h2 id={id}>Next due</h2>
      <ul>
        {due.map((d) => (
          <li key={d.bench} data-due={d.bench} className={d.overdue ? "v-act" : ""}>
            <span className="mono">{d.at ? apart(d.at, now()) : "—"}</span>
            <span className={`mono ${css.dueday}`}>{d.at ? day(d.at, zone, me.locale) : "not done yet"}</span>
            {may ? <Link to={benchPath(setId, d.bench)}>{d.title}</Link> : <span>{d.title}</span>}
            {may && d.overdue && (
              <Link to={becausePath(setId, { from: "due", of: d.bench, says: `${d.title} overdue` })}>
                Open a job
              </Link>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
