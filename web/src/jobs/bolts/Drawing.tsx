/** The bolt circle: which bolt comes next, in which round, how tight. Tapped as it is tightened. */
import type { EntryBody, Schemas } from "../../base";
import { useSheet } from "../../hydraulics";
import { Bench, Choose, NamedFigure, RecordEnd, useTools, Verdicts, type Given } from "../../safety";
import css from "../tools.module.scss";

type Body = EntryBody<"bolts">;
type View = Schemas["ShownBoltsView"];
const SAID = ["grade", "size", "lubricant", "into", "gasket"];
const pairs = (first: string, ...rest: string[]) =>
  [["", first], ...rest.map((r) => [r, r] as const)] as const;
const GRADE = pairs("grade?", "4.6", "A2-70", "8.8", "grade 2", "grade 5");
const SIZE = pairs(
  "size?",
  "M6",
  "M8",
  "M10",
  "M12",
  "M16",
  "M20",
  "1/4",
  "5/16",
  "3/8",
  "1/2",
  "5/8",
  "3/4",
);
const THREAD = [
  ["", "thread?"],
  ["dry", "dry"],
  ["oiled", "oiled or anti-seize"],
] as const;
const INTO = [
  ["", "into what?"],
  ["steel", "steel"],
  ["cast_iron", "cast iron"],
  ["cast_ears", "cast ears"],
  ["reduced", "a reduced thread"],
] as const;
const GASKET = [
  ["", "gasket?"],
  ["none", "no gasket"],
  ["ring", "O-ring"],
  ["soft", "soft gasket"],
] as const;

export function Drawing({ given }: { given: Given }) {
  const { tools, body, say, view } = useSheet<"bolts", View>(given, {
    figures: ["bolts", "maker", "applied"],
    kept: [...SAID, "bolts", "maker"],
    also: (b) => SAID.some((n) => Boolean(b[n])),
  });
  const said = { body, say };
  const done = body.tightened ?? [];
  return (
    <Bench tools={tools}>
      <p className="statesentence">
        <Choose<Body> name="size" label="Size" options={SIZE} {...said} />,{" "}
        <Choose<Body> name="grade" label="Grade" options={GRADE} {...said} />,{" "}
        <Choose<Body> name="lubricant" label="Thread" options={THREAD} {...said} /> into{" "}
        <Choose<Body> name="into" label="Thread is in" options={INTO} {...said} />;{" "}
        <Choose<Body> name="gasket" label="Gasket" options={GASKET} {...said} />
        {view?.torque && (
          <>
            : <strong className="mono">{view.torque.shown}</strong>
            {view.from_maker && " by the manufacturer"}
            {view.halved && ", half of the lower grade"}
          </>
        )}
        .
      </p>
      <div className={css.bench}>
        <div>
          <div className={css.row}>
            <NamedFigure name="bolts" label="bolts" />
            <NamedFigure name="maker" label="manufacturer's torque" />
            <NamedFigure name="applied" label="torque applied" />
          </div>
          {view && view.order.length > 0 && (
            <Circle view={view} tap={(b) => say({ tightened: [...done, b] })} />
          )}
          {done.length > 0 && tools.may && (
            <button type="button" className="linklike" onClick={() => say({ tightened: done.slice(0, -1) })}>
              Take the last bolt back
            </button>
          )}
        </div>
        <div>
          <ol className={css.rounds} aria-label="Rounds">
            {view?.rounds.map((r, i) => (
              <li key={r.title} data-round={i} data-now={view.next_round === i || undefined}>
                <span className="mono">
                  {r.done}/{view.order.length}
                </span>
                {r.title}
                {r.torque && <strong className="mono">{r.torque.shown}</strong>}
              </li>
            ))}
          </ol>
          <Verdicts />
          <RecordEnd />
        </div>
      </div>
    </Bench>
  );
}
function Circle({ view, tap }: { view: View; tap: (bolt: number) => void }) {
  const { may } = useTools();
  const n = view.order.length;
  const round = view.rounds[view.next_round ?? view.rounds.length - 1];
  const inRound = new Set(
    (round?.circular ? view.order.toSorted((a, b) => a - b) : view.order).slice(0, round?.done ?? 0),
  );
  return (
    <svg className={css.canvas} viewBox="0 0 600 360" role="group" aria-label="Bolt circle">
      <circle className={css.thing} cx="300" cy="180" r="168" />
      <circle className={css.thin} cx="300" cy="180" r="132" />
      <circle className={css.thing} cx="300" cy="180" r="86" />
      {Array.from({ length: n }, (_, i) => {
        const a = (i / n) * 2 * Math.PI - Math.PI / 2;
        const bolt = i + 1;
        const next = view.next === bolt;
        return (
          <g
            key={bolt}
            className={css.bolt}
            data-bolt={bolt}
            data-next={next || undefined}
            data-done={inRound.has(bolt) || undefined}
            role="button"
            tabIndex={0}
            aria-label={`bolt ${String(bolt)}${next ? ", next" : ""}`}
            onClick={() => may && tap(bolt)}
            onKeyDown={(e) => {
              if (may && (e.key === "Enter" || e.key === " ")) {
                e.preventDefault();
                tap(bolt);
              }
            }}
          >
            <circle cx={300 + 132 * Math.cos(a)} cy={180 + 132 * Math.sin(a)} r={n > 12 ? 16 : 24} />
            <text x={300 + 132 * Math.cos(a)} y={186 + 132 * Math.sin(a)} textAnchor="middle">
              {bolt}
            </text>
          </g>
        );
      })}
      <text className={css.big} x="300" y="176" textAnchor="middle">
        {view.next ? `bolt ${String(view.next)}` : "all rounds"}
      </text>
      <text className={css.axis} x="300" y="204" textAnchor="middle">
        {view.next ? round?.title : "done"}
      </text>
    </svg>
  );
}
