/**
 * What happened here, newest first: records, calls, repairs, open items; a corrected record struck through
 * beside its correction.
 */
import { useState, type ReactNode } from "react";
import { Link } from "react-router";
import { dayTime, Ready, small, useMe, VerdictShape, type Schemas } from "../../base";
import { useHistory } from "../queries";
import type { Kind, Moment } from "./Timeline";
import logbook from "../logbook.module.scss";
import css from "./set.module.scss";

/** As many lines as are read at a glance; the rest when they are asked for. */
const FEW = 5;
const FEWER = 1;
interface Row {
  key: string;
  at: string;
  shows: ReactNode;
}

export function History({
  setId,
  zone,
  moments,
  kind,
  part,
}: {
  setId: number;
  zone: string;
  moments: Moment[];
  kind: Kind;
  part: string;
}) {
  // Where each page looked at so far began; the newest begins at nothing.
  const [places, setPlaces] = useState([""]);
  const history = useHistory(setId, places.at(-1) ?? "");
  const me = useMe();
  const when = (at: string) => dayTime(at, zone, me.locale);
  if (kind || part)
    return (
      <Rows
        key={kind + part}
        few={part ? FEWER : FEW}
        rows={moments
          .filter((m) => (!kind || m.kind === kind) && (!part || m.part === part))
          .map((m, i) => ({ key: `${m.at}${i}`, at: m.at, shows: <OfMoment moment={m} when={when} /> }))}
        none={
          kind === "due" ? "What is due stands above, under “Next due”." : "Nothing of this kind is on file."
        }
      />
    );
  return (
    <Ready query={history} what="Loading history">
      {(h) => {
        const last = h.next ? (h.records.at(-1)?.taken_at ?? "") : "";
        const others = moments.filter((m) => (m.kind === "call" || m.kind === "open") && m.at >= last);
        const first = places.length === 1;
        return (
          <>
            <Rows
              key={places.length}
              all={!first}
              rows={[
                ...h.records.map((r) => ({
                  key: `r${r.id}`,
                  at: r.taken_at,
                  record: r,
                  shows: <OfRecord record={r} when={when} />,
                })),
                ...h.events.map((e) => ({
                  key: e.at + e.kind,
                  at: e.at,
                  shows: (
                    <>
                      <span className="mute">{when(e.at)}</span> <strong>{e.title}</strong> {e.note}
                    </>
                  ),
                })),
                ...(first ? others : []).map((m, i) => ({
                  key: `m${m.at}${i}`,
                  at: m.at,
                  shows: <OfMoment moment={m} when={when} />,
                })),
              ]}
              pages={
                <div className={`rowflex ${small.under}`}>
                  {places.length > 1 && (
                    <button className="btn-line" onClick={() => setPlaces(places.slice(0, -1))}>
                      Newer
                    </button>
                  )}
                  {h.next && (
                    <button className="btn-line" onClick={() => setPlaces([...places, h.next])}>
                      Older records
                    </button>
                  )}
                </div>
              }
              none="No records yet. The first running check starts the history and the trend."
            />
          </>
        );
      }}
    </Ready>
  );
}

function Rows({
  rows,
  none,
  all: whole = false,
  pages,
  few = FEW,
}: {
  rows: (Row & { record?: Schemas["RecordBrief"] })[];
  none: string;
  all?: boolean;
  few?: number;
  /** To the records before these and after them, once these are all in sight. */
  pages?: ReactNode;
}) {
  const [all, setAll] = useState(whole);
  const sorted = [...rows].sort((a, b) => Date.parse(b.at) - Date.parse(a.at));
  return (
    <>
      {rows.length === 0 && <p className="mute">{none}</p>}
      <ul className="hist">
        {sorted.slice(0, all ? undefined : few).map((r) => (
          <li key={r.key} data-record={r.record?.id} data-live={r.record?.live}>
            {r.shows}
          </li>
        ))}
      </ul>
      {!all && rows.length > few && (
        <p className={css.more}>
          <button className="linklike" onClick={() => setAll(true)}>
            Show {rows.length - few} more
          </button>
        </p>
      )}
      {(all || rows.length <= few) && pages}
    </>
  );
}

function OfRecord({ record: r, when }: { record: Schemas["RecordBrief"]; when: (at: string) => string }) {
  return (
    <div className={css.happened}>
      <div className={r.live ? logbook.histhead : `${logbook.histhead} ${logbook.struck}`}>
        <VerdictShape verdict={r.verdict} />
        <Link to={`/records/${r.id}`}>{when(r.taken_at)}</Link>
        <span className="mute">
          {r.title}, {r.by}
        </span>
      </div>
      <div className={r.live ? "" : logbook.struck}>{r.summary}</div>
      {r.supersedes !== null && <div className="mute">Corrects an earlier record: “{r.reason}”</div>}
      {!r.live && <div className="mute">Corrected by a later record. Original kept.</div>}
    </div>
  );
}

function OfMoment({ moment: m, when }: { moment: Moment; when: (at: string) => string }) {
  const span = m.kind === "call" || m.kind === "open";
  return (
    <div className={logbook.histhead}>
      {m.verdict && <VerdictShape verdict={m.verdict} />}
      {m.record === null ? (
        <span className="mute">{when(m.at)}</span>
      ) : (
        <Link to={`/records/${m.record}`}>{when(m.at)}</Link>
      )}
      <strong>{m.title}</strong>
      <span>{m.says}</span>
      {span && <span className="mute">{m.until ? `closed ${when(m.until)}` : "open"}</span>}
    </div>
  );
}
