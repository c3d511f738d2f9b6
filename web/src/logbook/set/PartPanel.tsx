/**
 * One part of a set: its verdict with the margin drawn, what was read last, what is fitted, what is due,
 * what can be started.
 */
import { useState, type ReactNode } from "react";
import { Link } from "react-router";
import {
  byWord,
  day,
  MarginLine,
  useMe,
  useNarrow,
  VerdictShape,
  VerdictWord,
  type Schemas,
} from "../../base";
import type { SetOut } from "../../plant";
import { useTrends } from "../queries";
import { DueList } from "./DueList";
import { pathOf } from "./part";
import { WasSaid } from "./WasSaid";
import css from "./set.module.scss";

type State = Schemas["SetStateOut"];
type Part = State["parts"][number];

/** In one row; the others say their last figure at their trend. */
const MOST = 3;

export function PartPanel({
  set,
  state,
  slot,
  title,
  zone,
  begin,
  hung,
}: {
  set: SetOut;
  state: State;
  slot: string;
  title: string;
  zone: string;
  begin: ReactNode;
  hung: ReactNode;
}) {
  const part = state.parts.find((p) => p.part === slot);
  const due = state.due.filter((d) => d.part === slot);
  const narrow = useNarrow();
  return (
    <section className={`${css.panel} ${css.chosen}`} aria-labelledby="part-title" data-panel={slot}>
      <div className={css.panelhead}>
        <h2 id="part-title">{title}</h2>
        {part && (
          <span className={`v-${part.verdict}`} data-testid="part-verdict">
            <VerdictWord verdict={part.verdict} beside={part.beside} />
            {part.by ? `, ${byWord(part.by)}` : ""}
          </span>
        )}
        <span className={css.wholeset}>
          <Link to={pathOf(set.id, "")}>Whole set</Link> {!narrow && <kbd className="mono">Esc</kbd>}
        </span>
      </div>
      {part ? (
        <Answers part={part} zone={zone} />
      ) : (
        <p className="mute">No finding on record for this part.</p>
      )}
      <Figures set={set} figures={state.figures.filter((f) => f.part === slot).slice(0, MOST)} zone={zone} />
      {hung}
      <DueList setId={set.id} due={due} zone={zone} may={set.may !== "viewer"} id="part-due-title" />
      {begin}
    </section>
  );
}

/** The answer that decides, drawn; the others in a line each, with their reason when they are opened. */
function Answers({ part, zone }: { part: Part; zone: string }) {
  const narrow = useNarrow();
  const me = useMe();
  const [open, setOpen] = useState("");
  const [leads, ...others] = part.answers;
  const rest = others.filter((a) => a.verdict !== "good");
  const good = others.filter((a) => a.verdict === "good");
  const row = (a: Part["answers"][number]) => {
    const id = a.question + a.subject;
    return (
      <li key={id} data-question={a.question}>
        <button
          className={`linklike v-${a.verdict}`}
          aria-expanded={open === id}
          onClick={() => setOpen(open === id ? "" : id)}
        >
          <VerdictShape verdict={a.verdict} size={13} /> {a.title}: {a.verdict}
        </button>
        {open === id && (
          <p>
            {a.reason} {a.was}{" "}
            <Link to={`/records/${a.record}`}>Record of {day(a.taken_at, zone, me.locale)}</Link>
          </p>
        )}
      </li>
    );
  };
  if (!leads) return <p>{part.reason}</p>;
  return (
    <>
      <p>
        <strong>{leads.title}.</strong> {leads.reason}
      </p>
      <WasSaid answer={leads} zone={zone} />
      {leads.line && <MarginLine line={leads.line} verdict={leads.verdict} width={narrow ? 340 : 400} />}
      <p className={css.quietline}>
        <Link to={`/records/${leads.record}`}>Why: record of {day(leads.taken_at, zone, me.locale)}</Link>
      </p>
      {rest.length > 0 && <ul className={css.others}>{rest.map(row)}</ul>}
      {good.length > 0 && (
        <details className={css.goods}>
          <summary>
            <VerdictShape verdict="good" size={13} />{" "}
            {good.length === 1 ? `${good[0]?.title}: good` : `${good.length} more: good`}
          </summary>
          <ul className={css.others}>{good.map(row)}</ul>
        </details>
      )}
    </>
  );
}

function Figures({ set, figures, zone }: { set: SetOut; figures: State["figures"]; zone: string }) {
  const me = useMe();
  const trends = useTrends(set.id).data ?? [];
  if (!figures.length) return null;
  return (
    <div className={css.figures}>
      {figures.map((f) => {
        const points = trends.find((t) => t.series === f.series)?.points ?? [];
        const before = points.at(-2);
        return (
          <div key={f.measurand} data-figure={f.measurand}>
            <span className={`mono ${css.bigfigure}`}>{f.figure}</span> <span>{f.unit}</span>
            <div className={css.label}>
              {f.label}
              {before ? <> was {before.shown}</> : null}
            </div>
            <div className={css.label}>{day(f.taken_at, zone, me.locale)}</div>
          </div>
        );
      })}
    </div>
  );
}

/** What stands at this part, since when, and its nameplate. */
export function Fitted({ set, slot, zone }: { set: SetOut; slot: string; zone: string }) {
  const me = useMe();
  const c = set.components.find((x) => x.slot === slot);
  return (
    <section className={css.fittedbox} aria-labelledby="fitted-title">
      <h2 id="fitted-title">Fitted</h2>
      {c ? (
        <>
          <p className={css.fitted}>
            <strong>{c.label}</strong>
            {c.fitted_from && <span className="mute">, since {day(c.fitted_from, zone, me.locale)}</span>}
          </p>
          {c.lines.length > 0 && <p className={css.fitted}>{c.lines.join("; ")}</p>}
          {c.missing.map((m) => (
            <p key={m.field} className={`v-unknown ${css.fitted}`}>
              {m.message}
            </p>
          ))}
        </>
      ) : (
        <p className={css.fitted}>
          <span className="mute">Nothing entered here.</span>
        </p>
      )}
      <Link to={`/sets/${set.id}/parts`}>
        {set.may === "admin" ? "Edit or replace" : "Nameplate and versions"}
      </Link>
    </section>
  );
}
