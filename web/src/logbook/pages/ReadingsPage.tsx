/** Readings as files: a table of old figures is looked at row by row, then comes in whole or not at all; and out again. */
import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import {
  Act,
  address,
  ApiError,
  Complaint,
  dayTime,
  outbox,
  Ready,
  sendFile,
  small,
  useBenches,
  useGet,
  useMe,
  type BenchOut,
  type Schemas,
} from "../../base";
import { chosenSite, useSites, type Site } from "../../plant";
import css from "../logbook.module.scss";

type Job = Schemas["ImportJobOut"];
const ACTS = {
  write: "/api/v1/readings/imports/{job_id}/write",
  cancel: "/api/v1/readings/imports/{job_id}/cancel",
} as const;
const WORKING = ["checking", "writing"];
const OUTCOMES: [keyof Job & ("taken" | "questioned" | "refused" | "there"), string, string][] = [
  ["refused", "rejected", "v-act"],
  ["questioned", "accepted, query", "v-watch"],
  ["there", "already on record", "mute"],
  ["taken", "accepted", ""],
];

export function ReadingsPage() {
  const sites = useSites();
  const benches = useBenches();
  return (
    <Ready query={sites} what="Loading sites">
      {(list) => {
        const site = chosenSite(list);
        return site ? (
          <Ready query={benches} what="Loading kinds of readings">
            {(all) => <Files site={site} kinds={all.filter((b) => b.files)} />}
          </Ready>
        ) : (
          <p className="emptyword">You have no site yet. Ask an admin to add you.</p>
        );
      }}
    </Ready>
  );
}

function Files({ site, kinds }: { site: Site; kinds: BenchOut[] }) {
  const [bench, setBench] = useState(kinds[0]?.name ?? "");
  const [order, setOrder] = useState("");
  const [error, setError] = useState<unknown>(null);
  const [sending, setSending] = useState("");
  const [open, setOpen] = useState<number | null>(null);
  const may = site.role !== "viewer";
  const client = useQueryClient();
  // Where each page of files looked at so far began; the newest begins at nothing.
  const [places, setPlaces] = useState([""]);
  const page = (before: string) => (may ? { site_id: site.id, before } : null);
  const newest = useGet("/api/v1/sites/{site_id}/readings/imports", page(""));
  const listed = useGet("/api/v1/sites/{site_id}/readings/imports", page(places.at(-1) ?? ""));
  const jobs = listed.data;
  const shown = open ?? newest.data?.items[0]?.id ?? null;
  const take = async (file: File | undefined) => {
    if (!file) return;
    setError(null);
    setSending(file.name);
    try {
      const job = (await sendFile(
        `/api/v1/sites/${site.id}/readings/imports`,
        { bench, order },
        file,
      )) as Job;
      setOpen(job.id);
      setPlaces([""]);
      await client.invalidateQueries({ queryKey: ["/api/v1/sites/{site_id}/readings/imports"] });
    } catch (e) {
      setError(e);
    }
    setSending("");
  };
  return (
    <>
      <h1>Import and export readings</h1>
      <p className="statesentence">
        File of{" "}
        <select
          className="inline-select"
          aria-label="Type of readings"
          value={bench}
          onChange={(e) => setBench(e.target.value)}
        >
          {kinds.map((b) => (
            <option key={b.name} value={b.name}>
              {b.records.charAt(0).toLowerCase() + b.records.slice(1)}
            </option>
          ))}
        </select>
        : one row per record with tag, date, and one column per reading, unit after a bar:{" "}
        <span className="mono">R_60s|MOhm</span>.{" "}
        <a href={`/api/v1/readings/${bench}/template.csv`} download>
          The empty template
        </a>{" "}
        lists every column.
      </p>
      <div className={css.filesgrid}>
        <section className="ruled" aria-labelledby="in-title">
          <h2 id="in-title">In</h2>
          {!may && <p className="mute">Import needs technician rights.</p>}
          {may && (
            <label
              className={css.dropzone}
              onDragOver={(e) => e.preventDefault()}
              onDrop={(e) => {
                e.preventDefault();
                void take(e.dataTransfer.files[0]);
              }}
            >
              <strong>{sending ? `Sending ${sending}…` : "Drop a CSV file here, or choose one"}</strong>
              <span className="mute">
                Comma, semicolon or tab; any order of columns; <span className="mono">&gt;10G</span>,{" "}
                <span className="mono">OL</span> and empty cells are understood. Nothing is saved until you
                confirm.
              </span>
              <input
                className="visually-hidden"
                type="file"
                accept=".csv,.txt,text/csv"
                aria-label="A file of readings"
                onChange={(e) => {
                  void take(e.target.files?.[0]);
                  e.target.value = "";
                }}
              />
            </label>
          )}
          {may && (
            <p className={small.apart}>
              Order of dates such as 2/3/2024:{" "}
              <select
                className="inline-select"
                aria-label="Order of dates"
                value={order}
                onChange={(e) => setOrder(e.target.value)}
              >
                <option value="">take from the file, else reject</option>
                <option value="day">day first</option>
                <option value="month">month first</option>
              </select>
              .
            </p>
          )}
          <Complaint error={error} />
        </section>
        <section className="ruled" aria-labelledby="out-title">
          <h2 id="out-title">Export</h2>
          <p className={`rowflex ${small.apart}`}>
            <a className="btn-line" href={`/api/v1/sites/${site.id}/readings/${bench}.csv`} download>
              All as CSV
            </a>
            <a className="btn-line" href={`/api/v1/sites/${site.id}/readings/${bench}.json`} download>
              All as JSON
            </a>
          </p>
          <p className="mute">
            Every value, unit and &gt; or &lt; sign as entered. An exported file can be imported again.
          </p>
          {!jobs && <Complaint error={listed.error} />}
          {!jobs && listed.error && (
            <button className="btn-line" onClick={() => void listed.refetch()}>
              Try again
            </button>
          )}
          {jobs && (jobs.items.length > 1 || places.length > 1) && (
            <ul className="hist">
              {jobs.items.map((j) => (
                <li key={j.id}>
                  <button className="linklike" onClick={() => setOpen(j.id)}>
                    {j.name}
                  </button>{" "}
                  <span className="mute">{j.state}</span>
                </li>
              ))}
            </ul>
          )}
          <div className="rowflex">
            {places.length > 1 && (
              <button className="btn-line" onClick={() => setPlaces(places.slice(0, -1))}>
                Newer files
              </button>
            )}
            {jobs?.next && (
              <button className="btn-line" onClick={() => setPlaces([...places, jobs.next])}>
                Older files
              </button>
            )}
          </div>
        </section>
      </div>
      {shown !== null && <JobOf id={shown} zone={site.time_zone} />}
    </>
  );
}

function JobOf({ id, zone }: { id: number; zone: string }) {
  const [beat, setBeat] = useState(700);
  const job = useGet("/api/v1/readings/imports/{job_id}", { job_id: id }, { refetchInterval: beat });
  const working = job.data ? WORKING.includes(job.data.state) : true;
  useEffect(() => setBeat(working ? 700 : 20_000), [working]);
  return (
    <Ready query={job} what="Loading file">
      {(j) => <Said job={j} zone={zone} refetch={() => void job.refetch()} />}
    </Ready>
  );
}

const STATE: Record<string, string> = {
  checking: "is being checked",
  checked: "checked; nothing saved yet",
  writing: "is being saved",
  written: "saved",
  failed: "import failed; nothing saved",
  cancelled: "cancelled; nothing saved",
};

function Said({ job: j, zone, refetch }: { job: Job; zone: string; refetch: () => void }) {
  const me = useMe();
  const client = useQueryClient();
  const [error, setError] = useState<ApiError | null>(null);
  const [outcome, setOutcome] = useState("");
  const working = WORKING.includes(j.state);
  const act = async (what: "write" | "cancel") => {
    setError(null);
    try {
      await outbox.write("POST", address(ACTS[what], { job_id: j.id }), undefined, `${j.name}, ${what}`);
      refetch();
      await client.invalidateQueries({ queryKey: ["/api/v1/sites/{site_id}/readings/imports"] });
    } catch (e) {
      setError(e as ApiError);
    }
  };
  const fresh = j.taken + j.questioned;
  return (
    <section className="ruled" aria-labelledby="job-title" data-testid="import" data-state={j.state}>
      <h2 id="job-title">{j.title}s from a file</h2>
      <p className={small.close}>
        <strong>{j.name}</strong> {STATE[j.state]}.{" "}
        <span className="mute">
          {j.by}, {dayTime(j.at, zone, me.locale)}
        </span>
      </p>
      {working && <Progress done={j.done} total={j.total} word={j.cancel_asked ? "stopping" : j.state} />}
      {j.error && (
        <p className="notice bad" role="alert">
          {j.error}
        </p>
      )}
      {j.state !== "checking" && j.state !== "failed" && (
        <p className={css.outcomes}>
          {OUTCOMES.map(([k, word, cls]) =>
            j[k] === 0 ? (
              <span key={k} className="mute">
                <span className="mono">0</span> {word}
              </span>
            ) : (
              <button
                key={k}
                className={`linklike ${cls}`}
                aria-pressed={outcome === k}
                onClick={() => setOutcome(outcome === k ? "" : k)}
              >
                <span className="mono">{j[k]}</span> {word}
              </button>
            ),
          )}
        </p>
      )}
      {j.state === "checked" && j.refused > 0 && (
        <p className="v-act">
          {j.refused === 1 ? "One row is rejected and left" : `${j.refused} rows are rejected and left`} out.
          Correct the file and import it again: what is already on record is not saved twice.
        </p>
      )}
      <Complaint error={error} />
      <div className={`savebar ${small.fromLeft}`}>
        {j.state === "checked" && fresh > 0 && (
          <button className="btn-ink" onClick={() => void act("write")}>
            Save {fresh === 1 ? "1 record" : `${fresh} records`}
          </button>
        )}
        {(working || j.state === "checked") && (
          <Act waits={j.cancel_asked && working && "Cancelling…"} onClick={() => void act("cancel")}>
            Cancel
          </Act>
        )}
      </div>
      {j.state !== "checking" && (
        <Rows
          key={outcome}
          id={j.id}
          outcome={outcome || (j.refused ? "refused" : j.questioned ? "questioned" : "")}
          state={j.state}
        />
      )}
    </section>
  );
}
function Progress({ done, total, word }: { done: number; total: number; word: string }) {
  return (
    <div role="progressbar" aria-label={word} aria-valuemin={0} aria-valuemax={total} aria-valuenow={done}>
      <svg width="100%" height="20" aria-hidden="true">
        <line x1="0" y1="10" x2="100%" y2="10" stroke="var(--line)" />
        <line
          x1="0"
          y1="10"
          x2={`${total ? (100 * Math.min(done, total)) / total : 0}%`}
          y2="10"
          stroke="var(--accent)"
          strokeWidth="4"
        />
      </svg>
      <span className="mono">{done}</span> of <span className="mono">{total}</span> rows
    </div>
  );
}
function Rows({ id, outcome, state }: { id: number; outcome: string; state: string }) {
  const [places, setPlaces] = useState([0]);
  const rows = useGet("/api/v1/readings/imports/{job_id}/rows", {
    job_id: id,
    outcome,
    after: places.at(-1) ?? 0,
    state,
  });
  return (
    <Ready query={rows} what="Loading rows">
      {(r) =>
        r.rows.length === 0 ? (
          <p className="mute">No rows to show.</p>
        ) : (
          <>
            <div
              className={`scroll-x ${small.tall340}`}

              tabIndex={0}
              role="region"
              aria-label="Rows of the file"
            >
              <table className="plain">
                <thead>
                  <tr>
                    <th>Line</th>
                    <th>Tag</th>
                    <th>Result</th>
                    <th>Why</th>
                  </tr>
                </thead>
                <tbody>
                  {r.rows.map((x) => (
                    <tr key={x.line}>
                      <td className="mono">{x.line}</td>
                      <td className="mono">{x.tag}</td>
                      <td className={OUTCOMES.find(([k]) => k === x.outcome)?.[2]}>
                        {OUTCOMES.find(([k]) => k === x.outcome)?.[1]}
                      </td>
                      <td>{x.says}</td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </div>
            <div className={`rowflex ${small.underClose}`}>
              {places.length > 1 && (
                <button className="btn-line" onClick={() => setPlaces(places.slice(0, -1))}>
                  Previous rows
                </button>
              )}
              {r.next > 0 && (
                <button className="btn-line" onClick={() => setPlaces([...places, r.next])}>
                  Next rows
                </button>
              )}
            </div>
          </>
        )
      }
    </Ready>
  );
}
