/** Everything that hangs anywhere, read out for the next shift: one page, also on paper. */
import { Link } from "react-router";
import { dayTime, Ready, small, useGet, useKeys, useMe, VerdictWord } from "../base";
import { chosenSite, useSites } from "../plant";
import { TagShape } from "./components";
import { sentence } from "./logic";
import css from "./safety.module.scss";

export function HandOverPage() {
  const site = chosenSite(useSites().data);
  const page = useGet("/api/v1/sites/{site_id}/hand-over", site ? { site_id: site.id } : null);
  const me = useMe();
  useKeys([{ key: "w", does: "print the handover", run: () => window.print() }]);
  return (
    <Ready query={page} what="Loading handover">
      {(p) => (
        <div className={css.handover}>
          <div className={`rowflex ${small.between}`}>
            <h1>
              Shift handover <span className={small.light}>{p.site}</span>
            </h1>
            <span className="rowflex noprint">
              <button className="btn-line" onClick={() => window.print()}>
                Print
              </button>
              <a className="btn-ink" href={`/api/v1/sites/${site?.id}/hand-over.pdf`} download>
                Download PDF
              </a>
            </span>
          </div>
          <p className={`mute ${small.flush}`}>
            As of {dayTime(p.as_of, p.time_zone, me.locale)}, by {p.by}.
          </p>
          {p.chapters.length === 0 && (
            <div className="emptyword">
              <p>
                No open items: no isolation, no call, no temporary change, nothing deferred. Tell the next
                shift so.
              </p>
            </div>
          )}
          {p.chapters.map((c) => (
            <section key={c.title} className="ruled" aria-label={c.title}>
              <h2>{c.title}</h2>
              <ul className={css.readout}>
                {c.tags.map((t) => (
                  <li key={t.id}>
                    <TagShape tag={t} />
                    <span className={css.who}>
                      {t.set_id ? (
                        <Link to={`/sets/${t.set_id}`} className="mono">
                          {t.tag}
                        </Link>
                      ) : (
                        <strong>{t.place}</strong>
                      )}
                      <span className={`mono ${css.age}`}>{t.age}</span>
                    </span>
                    <span className={css.words}>
                      <VerdictWord verdict={t.verdict} />{" "}
                      {!t.says?.startsWith(t.title) && <strong>{sentence(t.title)} </strong>}
                      {t.says}{" "}
                      {t.set_id && t.place ? <span className="mute">{sentence(t.place)}</span> : null}{" "}
                      <span className="mute">
                        since {dayTime(t.since, p.time_zone, me.locale)}
                        {t.names?.length ? `, ${t.names.join(", ")}` : ""}
                      </span>
                    </span>
                  </li>
                ))}
              </ul>
            </section>
          ))}
          <p className={css.codes}>{p.codes}</p>
        </div>
      )}
    </Ready>
  );
}
