/** No job yet: which procedures are for this set, and why it is opened. */
import { Act, useGet } from "../../base";
import { useSetSafety, type Given } from "../../safety";
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
  const safety = useSetSafety(set.id).data;
  const because = String(job.typed["open:because"] ?? "");
  const source = String(job.typed["open:source"] ?? "hand");
  const calls = safety?.matters ?? [];
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
      set_kind: set.kind,
    } as Body);
    job.forget("open:because", "open:source");
  };
  return (
    <section className={css.opening}>
      <p className="statesentence">
        No job is open on this set. It is opened because of{" "}
        <select
          className="inline-select"
          aria-label="Opened from"
          value={source}
          onChange={(e) => job.put("open:source", e.target.value)}
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
      {source === "call" && calls.length > 0 && (
        <p className="mute">
          Open on this set:{" "}
          {calls.map((m) => (
            <button
              key={m.id}
              type="button"
              className="linklike"
              onClick={() => job.put("open:because", m.calls.at(-1)?.title ?? "")}
            >
              {m.calls.at(-1)?.title}
            </button>
          ))}
        </p>
      )}
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
