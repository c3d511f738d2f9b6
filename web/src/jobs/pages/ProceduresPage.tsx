/**
 * The procedures of a site: read, copied, extended by a lead. Each version is kept; a job goes on with the one it
 * began with.
 */
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useParams } from "react-router";
import {
  Act,
  address,
  Complaint,
  outbox,
  Ready,
  SENDING,
  useDraft,
  useGet,
  useMe,
  type Schemas,
} from "../../base";
import css from "./pages.module.scss";
import { StepMoves, type Moves } from "./StepMoves";

type Procedure = Schemas["ProcedureOut"];
interface Step extends Moves {
  id?: string;
  title?: string;
  do?: string;
  why?: string;
  mistake?: string;
  caution?: string;
  block?: string;
}
interface Data {
  title?: string;
  reason?: string;
  tree?: string;
  step?: Step[];
  [more: string]: unknown;
}
const WORDS = [
  ["title", "Title"],
  ["do", "Do"],
  ["why", "Why"],
  ["mistake", "Mistake"],
  ["caution", "Caution"],
  ["hold", "Hold: words of its button"],
] as const;

export function ProceduresPage() {
  const site = Number(useParams().siteId);
  const list = useGet("/api/v1/sites/{site_id}/procedures", { site_id: site });
  const [open, setOpen] = useState<string | null>(null);
  return (
    <div className={css.page}>
      <h1>Procedures</h1>
      <p className="mute">
        Each is compiled for the exact set. A lead can copy one and extend it for this site; jobs under way go
        on with the version they were opened with.
      </p>
      <Ready query={list} what="Loading procedures">
        {(l) => (
          <ul className={css.procedures}>
            {l.procedures.map((p) => (
              <li key={p.id} data-procedure={p.id} data-own={p.own || undefined}>
                <button
                  type="button"
                  className="linklike"
                  onClick={() => setOpen(open === p.id ? null : p.id)}
                >
                  <span className="mono">{p.id}</span> {p.title}
                </button>{" "}
                <span className="mute">
                  {p.own ? `site version ${String(p.version)}, ${p.by}: ${p.why}` : "as shipped"}
                </span>
                {open === p.id && <Opened site={site} code={p.id} done={() => setOpen(null)} />}
              </li>
            ))}
          </ul>
        )}
      </Ready>
    </div>
  );
}
function Opened({ site, code, done }: { site: number; code: string; done: () => void }) {
  const told = useGet("/api/v1/sites/{site_id}/procedures/{code}", { site_id: site, code });
  return (
    <Ready query={told} what="Loading procedure">
      {(p) => <Editor key={`${p.id}${String(p.version)}`} site={site} p={p} done={done} />}
    </Ready>
  );
}
function Editor({ site, p, done }: { site: number; p: Procedure; done: () => void }) {
  const me = useMe();
  const client = useQueryClient();
  const [start] = useState(() => ({ code: p.id, data: p.data as Data, reason: "" }));
  const draft = useDraft(
    `${me.username}:procedure:${String(site)}:${p.id}:${String(p.version)}`,
    start,
    true,
  );
  const [error, setError] = useState<unknown>(null);
  const [busy, setBusy] = useState(false);
  const { code, data, reason } = draft.value;
  const steps = data.step ?? [];
  const change = (more: Partial<typeof start>) => draft.change((d) => ({ ...d, ...more }));
  const step = (at: number, more: Step) =>
    change({ data: { ...data, step: steps.map((s, i) => (i === at ? { ...s, ...more } : s)) } });
  const insert = (at: number) =>
    change({
      data: {
        ...data,
        step: [
          ...steps.slice(0, at + 1),
          { id: fresh(steps), title: "", do: "", why: "" },
          ...steps.slice(at + 1),
        ],
      },
    });
  const keep = async () => {
    setBusy(true);
    setError(null);
    try {
      await outbox.write(
        "POST",
        address("/api/v1/sites/{site_id}/procedures/{code}", { site_id: site, code }),
        { data: { ...data, id: code }, reason, expected_version: code === p.id ? p.version : 0 },
        `procedure ${code}`,
      );
      draft.done(start);
      await client.invalidateQueries({ queryKey: ["/api/v1/sites/{site_id}/procedures"] });
      await client.invalidateQueries({ queryKey: ["/api/v1/sites/{site_id}/procedures/{code}"] });
      done();
    } catch (e) {
      setError(e);
    } finally {
      setBusy(false);
    }
  };
  const changed = JSON.stringify(data) !== JSON.stringify(start.data) || code !== p.id;
  return (
    <div className={css.editor}>
      {p.may && (
        <div className={css.head}>
          <div className="field">
            <label htmlFor="code">Code (another one makes a copy)</label>
            <input id="code" maxLength={40} value={code} onChange={(e) => change({ code: e.target.value })} />
          </div>
          <div className="field">
            <label htmlFor="title">Title</label>
            <input
              id="title"
              maxLength={200}
              value={data.title ?? ""}
              onChange={(e) => change({ data: { ...data, title: e.target.value } })}
            />
          </div>
        </div>
      )}
      <ol className={css.steps}>
        {steps.map((s, i) => (
          <li key={`${s.id ?? s.block ?? ""}${String(i)}`} data-step={s.id ?? s.block}>
            {s.block ? (
              <em>shared steps {s.block}</em>
            ) : (
              <details>
                <summary>
                  <span className="mono">{s.id}</span> {s.title || "new step"}
                  {s.hold && " ‖"}
                </summary>
                {WORDS.map(([n, label]) => (
                  <div key={n} className="field">
                    <label htmlFor={`${n}${String(i)}`}>{label}</label>
                    <textarea
                      id={`${n}${String(i)}`}
                      rows={n === "title" || n === "hold" ? 1 : 2}
                      maxLength={400}
                      readOnly={!p.may}
                      value={s[n] ?? ""}
                      onChange={(e) => step(i, { [n]: e.target.value })}
                    />
                  </div>
                ))}
                <StepMoves
                  at={i}
                  step={s}
                  tree={data.tree ?? ""}
                  may={p.may}
                  change={(more) => step(i, more)}
                />
                {p.may && (
                  <button
                    type="button"
                    className="linklike"
                    onClick={() => change({ data: { ...data, step: steps.filter((_, k) => k !== i) } })}
                  >
                    Remove step
                  </button>
                )}
              </details>
            )}
            {p.may && (
              <button type="button" className="linklike" onClick={() => insert(i)}>
                Add a step after it
              </button>
            )}
          </li>
        ))}
      </ol>
      {p.may && (
        <>
          <div className="field">
            <label htmlFor="why-version">Why it is changed</label>
            <input
              id="why-version"
              maxLength={300}
              value={reason}
              onChange={(e) => change({ reason: e.target.value })}
            />
          </div>
          <Act
            className="btn-ink"
            waits={
              (busy && SENDING) || (!changed && "Nothing changed.") || (!reason.trim() && "Enter why first.")
            }
            onClick={() => void keep()}
          >
            Save version for this site
          </Act>
          <Complaint error={error} />
        </>
      )}
      {p.versions.length > 0 && (
        <ul className="mute">
          {p.versions.map((x) => (
            <li key={x.version}>
              Version {x.version}, {x.by}: {x.why}
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
/** An id that no step has yet. */
export function fresh(steps: readonly Step[]): string {
  const held = new Set(steps.map((s) => s.id));
  let n = steps.length + 1;
  while (held.has(`x${String(n)}`)) n += 1;
  return `x${String(n)}`;
}
