/** One record: the facts as typed, the judgement as it stands; correct it, or try a figure in pencil. */
import type { ReactNode } from "react";
import { Link, useParams } from "react-router";
import {
  benchPath,
  dayTime,
  enteredFields,
  Ready,
  small,
  useMe,
  useSchema,
  useSymbols,
  type Schemas,
} from "../../base";
import { useSet, useSites } from "../../plant";
import { AddPicture, Pictures } from "../components/Pictures";
import { Judged } from "../components/Judged";
import { useRecord } from "../queries";
import css from "../logbook.module.scss";

type RecordOut = Schemas["RecordOut"];
export interface Drawn {
  draw?: (r: RecordOut) => ReactNode;
}
export function RecordPage({ draw }: Drawn) {
  const record = useRecord(Number(useParams().recordId));
  return (
    <Ready query={record} what="Loading record">
      {(r) => <RecordOf record={r} draw={draw} />}
    </Ready>
  );
}

type Typed = [string, Schemas["Entered"]];
const isTyped = (e: [string, unknown]): e is Typed =>
  typeof e[1] === "object" && e[1] !== null && "text" in e[1];
/** The typed figures of a record: of one entry, or of a test's setup and its readings by second. */
function typedOf(body: Record<string, unknown>): Typed[] {
  const { setup, readings } = body as {
    setup?: Record<string, unknown>;
    readings?: { leg: string; seconds: number; ohms: Schemas["Entered"] }[];
  };
  const rows = (readings ?? []).map((r): Typed => [
    `${r.leg === "all" ? "" : `${r.leg}, `}${r.seconds} s`,
    r.ohms,
  ]);
  return [...Object.entries({ ...body, ...setup }).filter(isTyped), ...rows];
}

function RecordOf({
  record: r,
  draw,
}: {
  record: RecordOut;
  draw?: ((r: RecordOut) => ReactNode) | undefined;
}) {
  const set = useSet(r.set_id).data;
  const zone = useSites().data?.find((s) => s.id === set?.site_id)?.time_zone ?? "UTC";
  const me = useMe();
  const symbols = useSymbols();
  const typed = typedOf(r.body);
  const schema = useSchema(`/api/v1/benches/${r.bench}/schema`).data;
  const rules = schema ? enteredFields(schema) : {};
  const bench = benchPath(r.set_id, r.bench);
  return (
    <>
      <h1>
        <Link className="mono" to={`/sets/${r.set_id}`}>
          {set?.tag}
        </Link>{" "}
        {r.title}
      </h1>
      <p className="mute">
        {dayTime(r.taken_at, zone, me.locale)}, {r.by}; evaluated{" "}
        {r.judged_times === 1 ? "once" : `${r.judged_times} times`}, rules {r.rules_version}
      </p>
      {!r.live && (
        <p className="notice bad">
          This record was corrected
          {r.superseded_by !== null && (
            <>
              : <Link to={`/records/${r.superseded_by}`}>see the current record</Link>
            </>
          )}
          . The original is kept.
        </p>
      )}
      {r.supersedes !== null && (
        <p className="notice">
          Corrects <Link to={`/records/${r.supersedes}`}>an earlier record</Link>: “{r.reason}”
        </p>
      )}
      {r.read_with.length > 0 && (
        <p data-testid="read-with">
          <span className="mute">Read with</span> {r.read_with.map((x) => `${x.name} (${x.word})`).join(", ")}
        </p>
      )}
      {r.clocks.map((says) => (
        <p key={says} className="notice" data-testid="clocks">
          {says}
        </p>
      ))}
      {r.story.length > 0 && (
        <ol className={`${css.story} ruled`} aria-label="Work log">
          {r.story.map((x, i) => (
            <li key={i}>
              <span className="mute">
                {dayTime(x.at, zone, me.locale)}, {x.by}
              </span>{" "}
              {x.says}
            </li>
          ))}
        </ol>
      )}
      {typed.length > 0 && (
        <div className={`${css.callouts} ruled`}>
          {typed.map(([name, e]) => (
            <div className={css.callout} key={name}>
              <span className={r.live ? "mono" : `mono ${small.struck}`}>
                {e.text} {symbols[e.unit ?? ""] ?? ""}
              </span>
              <span className="lab">{rules[name]?.label ?? name.replaceAll("_", " ")}</span>
            </div>
          ))}
        </div>
      )}
      {typeof r.body.note === "string" && r.body.note && <p>“{r.body.note}”</p>}
      {draw?.(r)}
      <div className="ruled">
        <Judged answer={r.evaluation} />
      </div>
      {set && (
        <div className="ruled">
          <Pictures setId={r.set_id} tag={set.tag} zone={zone} may={set.may !== "viewer"} of={r.entries} />
          {set.may !== "viewer" && r.entries.length > 0 && (
            <AddPicture setId={r.set_id} tag={set.tag} entry={r.entries.at(-1) ?? ""} />
          )}
        </div>
      )}
      <div className="savebar noprint">
        <a className="btn-line" href={`/api/v1/records/${r.id}/certificate.pdf`} download>
          Report, PDF
        </a>
        {r.correctable && (
          <Link className="btn-line" to={`${bench}?record=${r.id}&mode=pencil`}>
            Try other figures (what-if)
          </Link>
        )}
        {r.correctable && r.live && set && set.may !== "viewer" && (
          <Link className="btn-line" to={`${bench}?record=${r.id}&mode=correct`}>
            Correct record
          </Link>
        )}
      </div>
    </>
  );
}
