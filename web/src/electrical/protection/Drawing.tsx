/** What protects a motor: the dial and how current reaches it, the image's curve, the short circuit, the starts. */
import type { EntryBody, Schemas } from "../../base";
import {
  Bench,
  NamedFigure,
  RecordEnd,
  useBench,
  useOneEntry,
  useTools,
  Verdicts,
  type Given,
} from "../../safety";
import { Choose, Tick } from "../../safety";
import { Curve } from "./Curve";
import { Dial, DialFigures } from "./Dial";
import css from "./drawing.module.scss";

type View = Schemas["ShownProtectionView"];
type Body = EntryBody<"protection">;
const SET = ["dial", "multiplier", "loops"];
const TRANSFORMER = ["ct_primary", "ct_secondary"];
const IMAGE = ["seconds", "start_amps", "start_seconds", "stall_seconds"];
const SHORT = ["short_amps", "table_amps", "maker_amps", "fault_ka", "panel_ka"];
const STARTS = ["starts_most", "starts_a", "starts_b", "load_inertia", "rest"];
const FIGURES = [...SET, ...TRANSFORMER, ...IMAGE, ...SHORT, ...STARTS];
const SAID = ["overload", "marked", "inside_delta", "transformer", "trip_class", "hard_start", "rise_40"];
const KEPT = [
  ...FIGURES.filter((n) => n !== "dial" && n !== "short_amps"),
  ...SAID,
  "short",
  "table_read",
  "coordination",
];
const EMPTY: View = {
  dial: { at: null, due: null, least: null, most: null, hard: null, set: null, right: null, trip: null },
  loops: 1,
  ratio: "",
  inside_delta: false,
  device: "",
  plate: null,
  curve: null,
  wait: null,
  share: null,
  sizes: [],
  starts: [],
  busiest: null,
  allowed: null,
};
const DEVICES = [
  ["", "choose"],
  ["thermal", "a thermal relay"],
  ["electronic", "an electronic relay"],
  ["drive", "the drive's own"],
  ["inside", "a protector inside the motor"],
  ["none", "none"],
] as const;
const TRANSFORMERS = [
  ["", "choose"],
  ["none", "no current transformer"],
  ["fitted", "current transformers"],
] as const;
const CLASSES = [
  ["", "class not known"],
  ["10A", "class 10A"],
  ["10", "class 10"],
  ["20", "class 20"],
  ["30", "class 30"],
] as const;
const RESETS = [
  ["", "choose"],
  ["manual", "by hand"],
  ["auto", "by itself"],
] as const;
const STAGES = [
  ["", "choose"],
  ["found", "as found"],
  ["left", "as left"],
] as const;
const SHORTS = [
  ["", "choose"],
  ["delay", "a dual-element time-delay fuse"],
  ["fast", "a non-time-delay fuse"],
  ["breaker", "an inverse-time breaker"],
  ["gG", "a gG fuse"],
  ["aM", "an aM fuse"],
  ["drive", "the drive manufacturer's device"],
] as const;
const TYPES = [
  ["", "not known"],
  ["1", "1"],
  ["2", "2"],
] as const;

interface Said {
  body: Body;
  say: (more: Partial<Body>) => void;
}
export function Drawing({ given }: { given: Given }) {
  const sheet = useOneEntry<"protection">(given, {
    figures: ["dial", "short_amps"],
    kept: KEPT,
    also: (body: Body) => Boolean(body.starts?.trim() ?? body.overload),
  });
  const tools = useBench<View>(given, { ...sheet.own, order: FIGURES });
  const said = { body: sheet.body, say: sheet.change };
  const view = tools.answer?.view ?? EMPTY;
  return (
    <Bench tools={tools}>
      <Sentence {...said} />
      <div className={css.bench}>
        <div>
          <Dial view={view} />
          <DialFigures view={view} />
          <Reached {...said} />
          {view.curve && <Curve curve={view.curve} />}
          <Image view={view} />
        </div>
        <div>
          <Verdicts />
          <ShortCircuit {...said} view={view} />
          <Starts {...said} view={view} />
          <RecordEnd />
        </div>
      </div>
    </Bench>
  );
}
function Sentence({ body, say }: Said) {
  const said = { body, say };
  return (
    <p className="statesentence">
      The overload is <Choose name="overload" label="Overload" options={DEVICES} {...said} />,{" "}
      <Choose name="trip_class" label="Trip class" options={CLASSES} {...said} />, reset{" "}
      <Choose name="reset" label="Reset" options={RESETS} {...said} />. Read{" "}
      <Choose name="stage" label="As found or as left" options={STAGES} {...said} />.
    </p>
  );
}
/** How current reaches the dial, and what the nameplate grants. */
function Reached({ body, say }: Said) {
  const said = { body, say };
  return (
    <div className={css.reached}>
      <p className="statesentence">
        It is reached through{" "}
        <Choose name="transformer" label="Current transformers" options={TRANSFORMERS} {...said} />.
      </p>
      {body.transformer === "fitted" && (
        <div className={css.row}>
          <NamedFigure name="ct_primary" label="primary" />
          <NamedFigure name="ct_secondary" label="secondary" />
        </div>
      )}
      <p className={css.ticks}>
        <Tick name="inside_delta" label="Inside the delta of a star-delta starter" {...said} />
        <Tick name="hard_start" label="It does not start with a lower setting" {...said} />
        <Tick name="rise_40" label="Nameplate says 40 °C rise" {...said} />
        {body.overload === "inside" && (
          <Tick name="marked" label="Nameplate says thermally protected" {...said} />
        )}
      </p>
    </div>
  );
}
/** The start and the locked rotor that the class has to fit between. */
function Image({ view }: { view: View }) {
  return (
    <>
      <div className={css.row}>
        <NamedFigure name="start_amps" label="starting current" />
        <NamedFigure name="start_seconds" label="starting takes" />
        <NamedFigure name="stall_seconds" label="locked rotor borne, cold" />
        <NamedFigure name="seconds" label="trip at 7.2 × dial, per manufacturer" />
      </div>
      {view.share && (
        <p data-heat>
          One start takes <strong className="mono">{view.share.shown}</strong> of the heat of a trip
          {view.wait && (
            <>
              ; after a trip the next fits after <strong className="mono">{view.wait.shown}</strong>
            </>
          )}
          .
        </p>
      )}
    </>
  );
}
/** What clears a short circuit: its rating beside what each kind may be on this table current. */
function ShortCircuit({ body, say, view }: Said & { view: View }) {
  const said = { body, say };
  return (
    <section className={css.part} aria-label="Short circuit">
      <p className="statesentence">
        A short circuit is cleared by{" "}
        <Choose name="short" label="Short-circuit device" options={SHORTS} {...said} />
        {(body.short === "gG" || body.short === "aM") && (
          <>
            , coordination type{" "}
            <Choose name="coordination" label="Coordination type" options={TYPES} {...said} />
          </>
        )}
        .
      </p>
      <div className={css.row}>
        <NamedFigure name="short_amps" label="its rating" />
        <NamedFigure name="table_amps" label="full-load current, code table" />
        <NamedFigure name="maker_amps" label="largest, per manufacturer" />
        <NamedFigure name="panel_ka" label="panel holds" />
        <NamedFigure name="fault_ka" label="available fault current" />
      </div>
      <Tick name="table_read" label="Read from the code's table, not from the nameplate" {...said} />
      {view.sizes.length > 0 && (
        <ul className={css.sizes} data-sizes>
          {view.sizes.map((s) => (
            <li key={s.id} data-size={s.id} className={s.has ? css.has : ""}>
              {s.title}: {s.share.shown} is <span className="mono">{s.sum.shown}</span>, next size{" "}
              <strong className="mono">{s.size.shown}</strong>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
/** The log of starts along its own time, the busiest hour marked. */
function Starts({ body, say, view }: Said & { view: View }) {
  const { may } = useTools();
  return (
    <section className={css.part} aria-label="Starts">
      <div className="field">
        <label htmlFor="starts">Starts, from the log</label>
        <textarea
          id="starts"
          className="mono"
          rows={2}
          maxLength={6000}
          placeholder="06:10 06:42 …"
          readOnly={!may}
          value={body.starts ?? ""}
          onChange={(e) => say({ starts: e.target.value })}
        />
      </div>
      {view.starts.length > 1 && (
        <svg className={css.log} viewBox="0 0 400 34" role="img" aria-label="Starts along the log">
          <path className={css.grid} d="M4 24H396" />
          {view.busiest && (
            <path
              className={css.busy}
              d={`M${4 + view.busiest[0] * 392 - 3} 24H${4 + view.busiest[1] * 392 + 3}`}
            />
          )}
          {view.starts.map((at, i) => (
            <path key={i} className={css.tick} d={`M${4 + at * 392} 24V8`} />
          ))}
        </svg>
      )}
      <div className={css.row}>
        <NamedFigure name="starts_most" label="starts an hour, per manufacturer" />
      </div>
      <details
        className={css.more}
        open={STARTS.slice(1).some((n) => Boolean((body as Record<string, unknown>)[n]))}
      >
        <summary>By a table of starts</summary>
        <div className={css.row}>
          <NamedFigure name="starts_a" label="value A" />
          <NamedFigure name="starts_b" label="value B" />
          <NamedFigure name="load_inertia" label="load inertia" />
          <NamedFigure name="rest" label="rest, value C" />
        </div>
      </details>
      {view.allowed != null && (
        <p className="mute" data-allowed>
          Allowed: {view.allowed} an hour.
        </p>
      )}
    </section>
  );
}
