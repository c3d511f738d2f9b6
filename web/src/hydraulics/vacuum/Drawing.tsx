/** Condensate, vacuum and displacement: each its own drawing, by what the set is. */
import type { EntryBody, Schemas } from "../../base";
import { Bench, Choose, NamedFigure, RecordEnd, useTools, Verdicts, type Given } from "../../safety";
import { YES_NO } from "../options";
import { useSheet } from "../useSheet";
import css from "../water.module.scss";

type Body = EntryBody<"vacuum">;
type View = Schemas["ShownVacuumView"];
const WHAT = [
  ["", "by the set's kind"],
  ["condensate", "a condensate pump"],
  ["vacuum", "a vacuum pump"],
  ["displacement", "a displacement pump"],
] as const;
const KIND = [
  ["", "gauge or absolute?"],
  ["absolute", "absolute"],
  ["gauge", "gauge"],
] as const;
const RISES = [
  ["", "how?"],
  ["straight", "in a straight line"],
  ["flattens", "and flattens"],
] as const;
const DISCHARGE = [
  ["", "discharge?"],
  ["open", "open"],
  ["shut", "shut"],
] as const;
const RETURNS = [
  ["", "where to?"],
  ["tank", "the tank"],
  ["suction", "the suction"],
] as const;
const FIGURES = [
  "temperature",
  "starts",
  "start",
  "reached",
  "seconds",
  "blanked",
  "rise_from",
  "rise_to",
  "rise_s",
  "rpm",
  "flow",
  "relief",
];
const KEPT = [
  "what",
  "altitude",
  "level",
  "loss",
  "level_u",
  "npshr",
  "band",
  "pump_flow",
  "pressures",
  "volume",
  "ultimate",
  "plate_flow",
  "per_rev",
  "slip_new",
  "relief",
  "weakest",
  "relief_full",
  "relief_to",
  "relief_tested",
];
interface Said {
  body: Body;
  say: (more: Partial<Body>) => void;
}
export function Drawing({ given }: { given: Given }) {
  const { tools, body, say, view } = useSheet<"vacuum", View>(given, {
    figures: FIGURES,
    kept: KEPT,
    also: (b) => b.discharge === "shut",
  });
  const said = { body, say };
  const what = view?.what ?? "";
  return (
    <Bench tools={tools}>
      <p className="statesentence">
        This is <Choose name="what" label="Pump" options={WHAT} {...said} />
        {what === "vacuum" && (
          <>
            , pressures are <Choose name="pressures" label="Pressures are" options={KIND} {...said} />
          </>
        )}
        .
      </p>
      <div className={css.bench}>
        <div>
          {what === "condensate" && <Condensate view={view} />}
          {what === "vacuum" && <Vacuum view={view} {...said} />}
          {what === "displacement" && <Displacement view={view} {...said} />}
        </div>
        <div>
          <Verdicts />
          <RecordEnd />
        </div>
      </div>
    </Bench>
  );
}
function Condensate({ view }: { view: View | null }) {
  return (
    <>
      <svg viewBox="0 0 460 190" role="img" aria-label="Receiver over its pump">
        <path className={css.pipe} d="M60 30V110H220V30ZM100 30V14M180 30V8" />
        <rect className={css.water} x="61" y="70" width="158" height="39" />
        <path className={css.pipe} d="M140 110V150H250" />
        <circle className={css.casing} cx="280" cy="150" r="28" />
        <path className={css.dim} d="M330 70V150M322 70H338M322 150H338" />
        <text className={css.axis} x="188" y="18">
          vent{view?.flash && `, flash ${view.flash.shown}`}
        </text>
        {view?.hottest && (
          <text className={css.marked} x="342" y="116">
            holds to {view.hottest.shown}
          </text>
        )}
      </svg>
      <div className={css.row}>
        <NamedFigure name="steam" label="steam before the traps" />
        <NamedFigure name="vent" label="pressure in the receiver" />
        <NamedFigure name="temperature" label="condensate temperature" />
        <NamedFigure name="level" label="level over the eye" />
        <NamedFigure name="loss" label="friction to the eye" />
        <NamedFigure name="level_u" label="both known within" />
        <NamedFigure name="npshr" label="NPSH required" />
        <NamedFigure name="altitude" label="altitude" />
      </div>
      <div className={css.row}>
        <NamedFigure name="band" label="receiver, start to stop" />
        <NamedFigure name="pump_flow" label="pump flow" />
        <NamedFigure name="inflow" label="return flow" />
        <NamedFigure name="starts" label="starts an hour, counted" />
      </div>
      {view?.cycle && (
        <p className="mute" data-cycle>
          Fills in {view.fills?.shown}, pumps for {view.empties?.shown}: {view.cycle.shown} starts an hour.
        </p>
      )}
    </>
  );
}
function Vacuum({ view, body, say }: Said & { view: View | null }) {
  const at = ([x = 0, y = 0]: readonly number[]) => `${String(40 + x * 380)} ${String(170 - y * 150)}`;
  const line = (places: readonly (readonly number[])[]) =>
    places.map((p, i) => `${i ? "L" : "M"}${at(p)}`).join("");
  return (
    <>
      {view && view.pull.length > 1 && (
        <svg viewBox="0 0 440 196" role="img" aria-label="Pull-down, and that of the nameplate">
          <path className={css.frame} d="M40 14V170H420" />
          {view.floor != null && (
            <path className={css.rated} d={`M40 ${String(170 - view.floor * 150)}H420`} />
          )}
          <path className={css.law} d={line(view.plate)} />
          <path className={css.seen} d={line(view.pull)} data-pull />
          <text className={css.axis} x="420" y="190" textAnchor="end">
            time
          </text>
        </svg>
      )}
      <div className={css.row}>
        <NamedFigure name="volume" label="volume evacuated" />
        <NamedFigure name="start" label="from" />
        <NamedFigure name="reached" label="to" />
        <NamedFigure name="seconds" label="in" />
        <NamedFigure name="ultimate" label="ultimate, absolute" />
        <NamedFigure name="plate_flow" label="suction flow, nameplate" />
      </div>
      <div className={css.row}>
        <NamedFigure name="blanked" label="blanked off, reaches" />
        <NamedFigure name="seal_temp" label="seal water" />
      </div>
      <div className={css.row}>
        <NamedFigure name="rise_from" label="isolated, rises from" />
        <NamedFigure name="rise_to" label="to" />
        <NamedFigure name="rise_s" label="in" />
        <NamedFigure name="altitude" label="altitude" />
      </div>
      <p className="statesentence">
        It rises <Choose name="rise_shape" label="It rises" options={RISES} body={body} say={say} />.
      </p>
    </>
  );
}
function Displacement({ view, body, say }: Said & { view: View | null }) {
  const { may } = useTools();
  const said = { body, say };
  return (
    <>
      <svg
        viewBox="0 0 440 76"
        role="img"
        aria-label="What it displaces, and what runs back"
        data-slip={view?.slip ?? ""}
      >
        <path className={css.pipe} d="M10 16H430M10 44H430" />
        <circle className={css.casing} cx="220" cy="23" r="14" />
        <circle className={css.casing} cx="220" cy="37" r="14" />
        <text className={css.axis} x="10" y="66">
          suction
        </text>
        {view?.slip != null && (
          <>
            <path className={css.flow} d={`M10 30H${String(10 + 420 * (1 - view.slip))}`} />
            <path className={css.closed} d={`M${String(10 + 420 * (1 - view.slip))} 30H430`} />
          </>
        )}
        <text className={css.axis} x="430" y="66" textAnchor="end">
          {view?.slip == null ? "discharge" : "of what it displaces, the dashed part slips back"}
        </text>
      </svg>
      <p className="statesentence">
        Discharge <Choose name="discharge" label="Discharge valve" options={DISCHARGE} {...said} />, liquid as
        when new:{" "}
        <Choose name="same_liquid" label="Liquid as when new, same temperature" options={YES_NO} {...said} />.
      </p>
      <div className={css.row}>
        <NamedFigure name="per_rev" label="displacement a turn" />
        <NamedFigure name="rpm" label="speed" />
        <NamedFigure name="flow" label="flow measured" />
        <NamedFigure name="at_pressure" label="at a difference of" />
        <NamedFigure name="slip_new" label="slip when new" />
      </div>
      <div className={css.row}>
        <NamedFigure name="relief" label="relief valve set at" />
        <NamedFigure name="weakest" label="weakest part holds" />
      </div>
      <p className="statesentence">
        It passes full flow:{" "}
        <Choose name="relief_full" label="Relief sized for full flow" options={YES_NO} {...said} />, back to{" "}
        <Choose name="relief_to" label="Relief returns to" options={RETURNS} {...said} />, tested on{" "}
        <input
          type="date"
          className={`inline-input ${css.dateinput}`}
          aria-label="Relief last tested"
          readOnly={!may}
          value={body.relief_tested ?? ""}
          onChange={(e) => say({ relief_tested: e.target.value || null })}
        />
        .
      </p>
    </>
  );
}
