/** No job yet: which procedures are for this set, and why it is opened. */
import { useEffect } from "react";
import { useSearchParams } from "react-router";
import { Act, useGet } from "../../base";
import type { Given } from "../../safety";
import { Standing } from "./Standing";
import type { Body, Job } from "./useJob";
import css from "./job.module.scss";

const FROM: [string, string][] = [
  ["hand", "by hand"],
  ["verdict", "a verdict"],
  ["call", "a call"],
  ["due", "a due date"],
];
export function Opening({ job, given }: { job: Job; given: Given }) {
  const { set } = given;
  const offered = job.view?.offered ?? [];
  const own = useGet("/api/v1/sites/{site_id}/procedures", { site_id: set.site_id });
  const because = String(job.typed["open:because"] ?? "");
  const source = String(job.typed["open:source"] ?? "hand");
  const of = String(job.typed["open:of"] ?? "");
  const take = (from: string, which: string, says: string) => {
    job.put("open:source", from);
    job.put("open:of", which);
    job.put("open:because", says);
  };
  // What it was opened from, where another page said so; then the address says no more.
  const [asked, setAsked] = useSearchParams();
  const from = asked.get("from");
  useEffect(() => {
    if (from && FROM.some(([v]) => v === from)) take(from, asked.get("of") ?? "", asked.get("says") ?? "");
    if (from) setAsked({}, { replace: true });
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [from]);
  const versions = new Map(own.data?.procedures.map((p) => [p.id, p]) ?? []);
  const kinds = own.data?.procedures.filter((p) => p.own && p.kinds.includes(set.kind)) ?? [];
  const all = [
    ...offered.map((o) => ({ id: o.id, title: versions.get(o.id)?.title ?? o.title, why: o.why })),
    ...kinds
      .filter((k) => !offered.some((o) => o.id === k.id))
      .map((k) => ({ id: k.id, title: k.title, why: k.reason })),
  ];
  const open = (id: string) => {
    job.say({
      kind: "open",
      procedure: id,
      version: versions.get(id)?.version ?? 0,
      because: because.trim(),
      source,
      of,
      set_kind: set.kind,
    } as Body);
    job.forget("open:because", "open:source", "open:of");
  };
  return (
    <section className={css.opening}>
      <p className="statesentence">
        No job is open on this set. It is opened because of{" "}
        <select
          className="inline-select"
          aria-label="Opened from"
          value={source}
          onChange={(e) => {
            job.put("open:source", e.target.value);
            job.put("open:of", "");
          }}
        >
          {FROM.map(([v, w]) => (
            <option key={v} value={v}>
              {w}
            </option>
          ))}
        </select>
        :
      </p>
      <div className="field">
        <label htmlFor="because">What is wrong, in a few words</label>
        <input
          id="because"
          maxLength={300}
          value={because}
          onChange={(e) => job.put("open:because", e.target.value)}
        />
      </div>
      <Standing setId={set.id} of={of} take={take} />
      {!job.view && <p className="mute">Loading procedures…</p>}
      <ul className={css.procedures} aria-label="Procedures for this set">
        {all.map((p) => (
          <li key={p.id} data-procedure={p.id}>
            <span className="mono">{p.id}</span>
            <span>
              <strong>{p.title}</strong>
              <span className="mute"> {p.why}</span>
            </span>
            {job.tools.writes && (
              <Act className="btn-line" waits={own.isPending && "Loading."} onClick={() => open(p.id)}>
                Open this job
              </Act>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
