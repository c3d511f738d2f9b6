/** What was put on record here, newest first; a corrected record struck through beside its correction. */
import { useState } from "react";
import { Link } from "react-router";
import { dayTime, Ready, small, useMe, VerdictShape } from "../../base";
import { useHistory } from "../queries";
import css from "../logbook.module.scss";

export function History({ setId, zone }: { setId: number; zone: string }) {
  // Where each page looked at so far began; the newest begins at nothing.
  const [places, setPlaces] = useState([""]);
  const history = useHistory(setId, places.at(-1) ?? "");
  const me = useMe();
  return (
    <Ready query={history} what="Loading history">
      {(h) => (
        <>
          {h.records.length === 0 && (
            <p className="mute">No records yet. The first running check starts the history and the trend.</p>
          )}
          <ul className="hist">
            {h.records.map((r) => (
              <li key={r.id} data-record={r.id} data-live={r.live}>
                <div className={r.live ? css.histhead : `${css.histhead} ${css.struck}`}>
                  <VerdictShape verdict={r.verdict} />
                  <Link to={`/records/${r.id}`}>{dayTime(r.taken_at, zone, me.locale)}</Link>
                  <span className="mute">
                    {r.title}, {r.by}
                  </span>
                </div>
                <div className={r.live ? "" : css.struck}>{r.summary}</div>
                {r.supersedes !== null && (
                  <div className="mute">Corrects an earlier record: “{r.reason}”</div>
                )}
                {!r.live && <div className="mute">Corrected by a later record. Original kept.</div>}
              </li>
            ))}
            {h.events.map((e) => (
              <li key={e.at + e.kind}>
                <span className="mute">{dayTime(e.at, zone, me.locale)}</span> {e.note}
              </li>
            ))}
          </ul>
          <div className={`rowflex ${small.under}`}>
            {places.length > 1 && (
              <button className="btn-line" onClick={() => setPlaces(places.slice(0, -1))}>
                Newer
              </button>
            )}
            {h.next && (
              <button className="btn-line" onClick={() => setPlaces([...places, h.next])}>
                Older
              </button>
            )}
          </div>
        </>
      )}
    </Ready>
  );
}
