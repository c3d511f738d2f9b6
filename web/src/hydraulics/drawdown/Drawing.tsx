/** A lift station: the well with its level rising and falling, what the pump moved, its own best, the pair. */
import type { EntryBody, Schemas } from "../../base";
import { Bench, Choose, NamedFigure, RecordEnd, Tick, useTools, Verdicts, type Given } from "../../safety";
import { LEGS, YES_NO } from "../options";
import { rowsOf, without } from "../rows";
import { useSheet } from "../useSheet";
import css from "../water.module.scss";

type Body = EntryBody<"drawdown">;
type View = Schemas["ShownDrawdownView"];
const SHAPES = [
  ["", "which shape?"],
  ["round", "round and straight"],
  ["table", "by its level table"],
] as const;
const OFF = [
  ["", "off or on?"],
  ["off", "off"],
  ["on", "on"],
] as const;
const RAIN = [
  ["", "rain?"],
  ["no", "dry weather"],
  ["yes", "rain"],
] as const;
const RUN = ["start", "rise", "rise_s", "fall", "fall_s", "after", "after_s"];
const KEPT = [
  "shape",
  "diameter",
  "bodies",
  "body_diameter",
  "levels",
  "idle_amps",
  "main_bore",
  "band",
  "station",
  "allowed",
  "alternates",
];
interface Said {
  body: Body;
  say: (more: Partial<Body>) => void;
}
export function Drawing({ given }: { given: Given }) {
  const { tools, body, say, view } = useSheet<"drawdown", View>(given, {
    figures: [...LEGS, "hours_one", "starts_one", "inflow"],
    order: [...RUN.map((f) => `runs.0.${f}`), ...RUN.map((f) => `runs.1.${f}`), ...LEGS],
    kept: KEPT,
    also: (b) => rowsOf(b, "runs").length > 0 || Boolean(b.both_idle),
    lists: { runs: RUN },
  });
  const said = { body, say };
  return (
    <Bench tools={tools}>
      <p className="statesentence">
        Well <Choose name="shape" label="Well" options={SHAPES} {...said} />, the other pump{" "}
        <Choose name="sister" label="The other pump" options={OFF} {...said} />,{" "}
        <Choose name="rain" label="Rain" options={RAIN} {...said} />.
      </p>
      <div className={css.bench}>
        <div>
          <Shape {...said} />
          <Runs view={view} {...said} />
        </div>
        <div>
          {view && <Well view={view} />}
          <div className={css.row} role="group" aria-label="Current">
            <NamedFigure name="amps_1" label="L1" />
            <NamedFigure name="amps_2" label="L2" />
            <NamedFigure name="amps_3" label="L3" />
            <NamedFigure name="idle_amps" label="no load" />
            <Tick name="amps_mean" label="Mean of 30 s, at the same level" {...said} />
          </div>
          <Verdicts />
          <Pair {...said} needed={view?.needed?.shown ?? ""} />
          <RecordEnd />
        </div>
      </div>
    </Bench>
  );
}
function Shape({ body, say }: Said) {
  const { may } = useTools();
  if (body.shape === "table")
    return (
      <div className="field">
        <label htmlFor="levels">Level m; volume m³, a line each, rising</label>
        <textarea
          id="levels"
          className="mono"
          rows={4}
          maxLength={2000}
          readOnly={!may}
          value={body.levels ?? ""}
          onChange={(e) => say({ levels: e.target.value })}
        />
      </div>
    );
  return (
    <div className={css.row}>
      <NamedFigure name="diameter" label="well diameter" />
      <NamedFigure name="bodies" label="pump bodies in it" />
      <NamedFigure name="body_diameter" label="diameter of one" />
      <NamedFigure name="main_bore" label="force main bore" />
    </div>
  );
}
function Runs({ view, body, say }: Said & { view: View | null }) {
  const { may } = useTools();
  const begun = rowsOf(body, "runs");
  const rows = begun.length ? begun : [{}];
  return (
    <section className={css.part} aria-label="Runs">
      <ol className={css.rows}>
        {rows.map((_, i) => {
          const at = (name: string) => `runs.${String(i)}.${name}`;
          const seen = view?.runs[i];
          return (
            <li key={i} data-run={i}>
              <div className={css.row}>
                <NamedFigure name={at("start")} label="start level" />
                <NamedFigure name={at("rise")} label="rise at rest" />
                <NamedFigure name={at("rise_s")} label="in" />
                <NamedFigure name={at("fall")} label="fall while pumping" />
                <NamedFigure name={at("fall_s")} label="in" />
                <NamedFigure name={at("after")} label="rise after" />
                <NamedFigure name={at("after_s")} label="in" />
              </div>
              {seen && (
                <p className="mute">
                  In <span className="mono">{seen.inflow?.shown}</span>, out of the well{" "}
                  <span className="mono">{seen.draw?.shown}</span>, pump{" "}
                  <strong className="mono" data-pump>
                    {seen.pump?.shown}
                  </strong>
                </p>
              )}
              {may && (
                <button
                  type="button"
                  className="linklike"
                  onClick={() => say({ runs: without(body, "runs", i) } as Partial<Body>)}
                >
                  Remove
                </button>
              )}
            </li>
          );
        })}
      </ol>
      {may && rows.length < 6 && (
        <button
          type="button"
          className="btn-line"
          onClick={() => say({ runs: [...rows, {}] } as Partial<Body>)}
        >
          Add a run
        </button>
      )}
    </section>
  );
}
/** The well in section, its level over each run beside it, and the pump's flow against its own best. */
function Well({ view }: { view: View }) {
  return (
    <svg viewBox="0 0 460 220" role="img" aria-label="The well and its runs" data-share={view.share ?? ""}>
      <path className={css.pipe} d="M20 20V200H120V20" />
      <rect className={css.water} x="21" y="110" width="98" height="89" />
      <rect className={css.casing} x="50" y="150" width="30" height="46" />
      <path className={css.pipe} d="M65 150V30H150" />
      {view.runs.map((r, i) => (
        <path
          key={i}
          className={i ? css.closed : css.seen}
          d={r.level
            .map(([a = 0, b = 0], n) => `${n ? "L" : "M"}${String(170 + a * 200)} ${String(190 - b * 160)}`)
            .join("")}
        />
      ))}
      <path className={css.frame} d="M170 30V190H370" />
      {view.share != null && (
        <g>
          <path className={css.pipe} d="M400 30V190H430V30" />
          <rect
            className={css.water}
            x="401"
            y={190 - view.share * 105}
            width="28"
            height={view.share * 105}
          />
          <path className={css.floor} d="M394 85H436" />
          <text className={css.axis} x="415" y="208" textAnchor="middle">
            of its best
          </text>
        </g>
      )}
    </svg>
  );
}
function Pair({ body, say, needed }: Said & { needed: string }) {
  const said = { body, say };
  const any = ["hours_one", "band", "both_idle"].some((n) => Boolean((body as Record<string, unknown>)[n]));
  return (
    <details className={css.more} open={any || undefined}>
      <summary>Starts and the pair</summary>
      <div className={css.row}>
        <NamedFigure name="band" label="volume between start and stop" />
        <NamedFigure name="station" label="pump flow, without a run" />
        <NamedFigure name="inflow" label="inflow" />
        <NamedFigure name="allowed" label="starts an hour allowed" />
        {needed && (
          <p className="mute">
            needed <strong className="mono">{needed}</strong>
          </p>
        )}
      </div>
      <p className="statesentence">
        Pumps alternate: <Choose name="alternates" label="Pumps alternate" options={YES_NO} {...said} />.{" "}
        <Tick name="both_idle" label="Both stood on a high alarm" {...said} />
      </p>
      <div className={css.row}>
        <NamedFigure name="hours_one" label="hours, this pump" />
        <NamedFigure name="starts_one" label="starts, this pump" />
        <NamedFigure name="hours_two" label="hours, the other" />
        <NamedFigure name="starts_two" label="starts, the other" />
      </div>
    </details>
  );
}
