/**
 * Work under way: every open job as its rail laid flat, what waits for a part or a shop first, looks after a job,
 * jobs to read.
 */
import { Link } from "react-router";
import { benchPath, day, dayTime, Ready, useGet, useMe, VerdictWord, type Schemas } from "../../base";
import { chosenSite, useSites } from "../../plant";
import css from "./pages.module.scss";

type Work = Schemas["WorkOut"];

export function WorkPage() {
  const site = chosenSite(useSites().data);
  const work = useGet("/api/v1/sites/{site_id}/work", site ? { site_id: site.id } : null);
  return (
    <div className={css.page}>
      <h1>Work</h1>
      {site && (
        <Ready query={work} what="Loading work">
          {(w) => (
            <>
              <Jobs work={w} zone={site.time_zone} />
              <Checks work={w} zone={site.time_zone} />
              <Kits work={w} />
              <Closed work={w} zone={site.time_zone} />
              <p>
                <Link to={`/procedures/${String(site.id)}`}>Procedures of this site</Link> ·{" "}
                <Link to="/anatomy/base_mounted">How pumps are built</Link>
              </p>
            </>
          )}
        </Ready>
      )}
    </div>
  );
}
function Jobs({ work, zone }: { work: Work; zone: string }) {
  const { locale } = useMe();
  if (work.jobs.length === 0)
    return (
      <div className="emptyword">
        <p>No job is open. Open one from a pump set: Overhaul, or ; on its page.</p>
      </div>
    );
  return (
    <ul className={css.jobs} aria-label="Jobs under way">
      {work.jobs.map((j) => (
        <li key={j.sheet} data-job={j.tag} data-short={j.short.length || undefined}>
          <Link to={benchPath(j.set_id, "job")}>
            <strong className="mono">{j.tag}</strong> {j.title}
          </Link>
          <Line done={j.done} count={j.count} />
          <p>
            {j.state}
            {j.now && <span className="mute">, next: {j.now}</span>}
            {j.left && <span className="mute">, about {j.left} left</span>}
          </p>
          <p className="mute">
            {j.owner}, opened {dayTime(j.opened_at, zone, locale)}. {j.because}
            {j.changes > 0 && `. ${String(j.changes)} temporary changes on`}
          </p>
          {j.short.length > 0 && <p className="v-act">{j.short.join("; ")}</p>}
          {j.shop && (
            <p className={j.overdue ? "v-act" : "mute"}>
              At {j.shop}
              {j.promised && `, promised for ${day(j.promised, zone, locale)}`}
              {j.overdue && ": overdue"}
            </p>
          )}
        </li>
      ))}
    </ul>
  );
}
/** The rail lying down: a piece a step, full as far as it is done. */
function Line({ done, count }: { done: number; count: number }) {
  const wide = count ? 600 / count : 600;
  return (
    <svg
      className={css.line}
      viewBox="0 0 600 16"
      role="img"
      aria-label={`${String(done)} of ${String(count)} steps`}
    >
      {Array.from({ length: count }, (_, i) => (
        <rect
          key={i}
          data-done={i < done || undefined}
          x={i * wide + 1}
          y="3"
          width={Math.max(2, wide - 2)}
          height="10"
        />
      ))}
    </svg>
  );
}
function Checks({ work, zone }: { work: Work; zone: string }) {
  const { locale } = useMe();
  if (work.checks.length === 0) return null;
  return (
    <section aria-label="Looks after a job">
      <h2>To be looked at again</h2>
      <ul className={css.checks}>
        {work.checks.map((c) => (
          <li key={c.id} data-check={c.tag} data-overdue={c.overdue || undefined}>
            <span className={c.overdue ? "mono v-act" : "mono"}>{dayTime(c.due, zone, locale)}</span>
            <Link to={`/sets/${String(c.set_id)}`}>{c.tag}</Link>
            <span>{c.why}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}
function Kits({ work }: { work: Work }) {
  const short = work.kits.filter((k) => k.short > 0);
  if (short.length === 0) return null;
  return (
    <section aria-label="Kits that are short">
      <h2>Missing for these jobs</h2>
      <ul className={css.checks}>
        {short.map((k) => (
          <li key={k.title} data-kit-short={k.title}>
            <strong>{k.title}</strong>
            <span>
              {k.lines
                .filter((l) => l.short > 0)
                .map((l) => `${l.title}: ${String(l.wanted)} wanted, ${String(l.free)} free`)
                .join("; ")}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
function Closed({ work, zone }: { work: Work; zone: string }) {
  const { locale } = useMe();
  if (work.closed.length === 0) return null;
  return (
    <section aria-label="Closed jobs">
      <h2>Closed</h2>
      <ul className={css.checks}>
        {work.closed.map((c) => (
          <li key={c.record} data-closed={c.tag}>
            <span className="mono">{dayTime(c.at, zone, locale)}</span>
            <Link to={`/records/${String(c.record)}`}>
              {c.tag} {c.title}
            </Link>
            <span>
              <VerdictWord verdict={c.verdict} /> {c.cause}
              <span className="mute">, {c.by}</span>
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
