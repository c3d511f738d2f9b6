/** A closed loop: drawn with its vessel and highest point; its standing pressures against what a tight one would
 *  show, and how long it lasts. */
import { Link } from "react-router";
import type { EntryBody, Schemas } from "../../base";
import { Bench, Choose, NamedFigure, RecordEnd, Tick, useTools, Verdicts, type Given } from "../../safety";
import { YES_NO } from "../options";
import { rowsOf } from "../rows";
import { useSheet } from "../useSheet";
import { LoopDrawn } from "./LoopDrawn";
import { Pressures } from "./Pressures";
import { Readings } from "./Readings";
import css from "../water.module.scss";

type Body = EntryBody<"loop">;
type View = Schemas["ShownLoopView"];
const MAKE_UP = [
  ["", "make-up?"],
  ["shut", "shut"],
  ["open", "open"],
] as const;
const VENT = [
  ["", "not looked"],
  ["water", "water"],
  ["spits", "it spits"],
  ["nothing", "nothing"],
] as const;
const TWIN = [
  ["", "on or off?"],
  ["off", "off"],
  ["on", "on"],
  ["none", "is none"],
] as const;
const SHAFT = [
  ["", "not looked"],
  ["turns", "turns"],
  ["still", "stands still"],
] as const;
interface Said {
  body: Body;
  say: (more: Partial<Body>) => void;
}
export function Drawing({ given }: { given: Given }) {
  const { tools, body, say, row, view } = useSheet<"loop", View>(given, {
    figures: ["precharge_found", "topped", "tap_in", "tap_out", "meter_end"],
    order: ["readings.0.pressure", "readings.0.temperature", "readings.1.pressure", "readings.1.temperature"],
    kept: [],
    also: (b) => rowsOf(b, "readings").length > 0 || b.make_up != null || b.spits != null,
    lists: { readings: ["pressure", "temperature"] },
  });
  const said = { body, say };
  return (
    <Bench tools={tools}>
      <Register view={view} site={given.set.site_id} />
      <div className={css.bench}>
        <div>
          <Readings body={body} say={say} row={row} left={view?.left_out ?? []} />
          {view && view.pressed.length > 0 && <Pressures view={view} />}
          <Split {...said} />
        </div>
        <div>
          <Figures view={view} />
          <Verdicts />
          {view && <LoopDrawn view={view} tag={given.set.tag} />}
          <MakeUp {...said} />
          <Vessel {...said} />
          <Circulator {...said} />
          <RecordEnd />
        </div>
      </div>
    </Bench>
  );
}
function Register({ view, site }: { view: View | null; site: number }) {
  if (!view) return null;
  if (!view.name)
    return (
      <p className="notice">
        This set is on no loop of the register. <Link to={`/loops/${String(site)}`}>Add its loop</Link>:
        volume, vessel, highest point.
      </p>
    );
  return (
    <p className="statesentence" data-loop={view.name}>
      <Link to={`/loops/${String(site)}`}>{view.name}</Link>: {view.plate.join(", ")}.
    </p>
  );
}
function Figures({ view }: { view: View | null }) {
  if (!view?.rate) return null;
  return (
    <div className={css.figures} aria-label="Calculated values">
      <div>
        <span className="lab">water lost</span>
        <strong className="mono" data-value="lost">
          {view.lost?.shown} <span className={css.off}>{view.lost?.error}</span>
        </strong>
        <span className="mute mono">
          {view.rate.shown} {view.rate.error}
        </span>
      </div>
      <div>
        <span className="lab">if tight</span>
        <strong className="mono" data-value="expected">
          {view.expected?.shown} <span className={css.off}>{view.expected?.error}</span>
        </strong>
      </div>
      <div>
        <span className="lab">shortest useful wait</span>
        <strong className="mono" data-value="wait">
          {view.wait?.shown}
        </strong>
        <span className="mute mono">waited {view.waited?.shown}</span>
      </div>
    </div>
  );
}
function Split({ body, say }: Said) {
  const said = { body, say };
  return (
    <p className="statesentence">
      Fresh fill within a day:{" "}
      <Choose name="fresh" label="Filled or vented within the last day" options={YES_NO} {...said} />.
      Isolated, the field side fell:{" "}
      <Choose name="ground_fell" label="Field side, isolated, fell" options={YES_NO} {...said} />, the machine
      side: <Choose name="machine_fell" label="Machine side, isolated, fell" options={YES_NO} {...said} />.{" "}
      <Tick name="alone" label="Without the pressures on record" {...said} />
    </p>
  );
}
function MakeUp({ body, say }: Said) {
  const { may } = useTools();
  return (
    <section className={css.part} aria-label="Make-up">
      <p className="statesentence">
        Make-up is left{" "}
        <Choose name="make_up" label="Make-up as it is left" options={MAKE_UP} body={body} say={say} />
        {body.make_up === "open" && (
          <>
            {" "}
            until{" "}
            <input
              type="date"
              className={`inline-input ${css.dateinput}`}
              aria-label="Make-up left open until"
              readOnly={!may}
              value={body.make_up_until ?? ""}
              onChange={(e) => say({ make_up_until: e.target.value || null })}
            />
          </>
        )}
        .
      </p>
      <div className={css.row}>
        <NamedFigure name="meter_start" label="its meter before" />
        <NamedFigure name="meter_end" label="its meter now" />
        <NamedFigure name="topped" label="water lost since glycol was read" />
      </div>
    </section>
  );
}
function Vessel({ body, say }: Said) {
  const said = { body, say };
  return (
    <details className={css.more} open={Boolean(body.precharge_found ?? body.spits) || undefined}>
      <summary>Vessel</summary>
      <div className={css.row}>
        <NamedFigure name="precharge_found" label="precharge found" />
        <Tick name="vessel_drained" label="Vessel isolated and drained" {...said} />
      </div>
      <p className="statesentence">
        Its valve core spits water:{" "}
        <Choose name="spits" label="Vessel's valve core spits water" options={YES_NO} {...said} />.
      </p>
    </details>
  );
}
function Circulator({ body, say }: Said) {
  const said = { body, say };
  return (
    <details className={css.more} open={Boolean(body.tap_in ?? body.tap_out) || undefined}>
      <summary>Circulator: dead or dry?</summary>
      <div className={css.row}>
        <NamedFigure name="tap_in" label="pressure before it" />
        <NamedFigure name="tap_out" label="pressure behind it" />
      </div>
      <p className="statesentence">
        Running; at its vent <Choose name="vent" label="At its vent" options={VENT} {...said} />, its shaft{" "}
        <Choose name="shaft" label="Its shaft" options={SHAFT} {...said} />; the other circulator{" "}
        <Choose name="twin" label="The other circulator" options={TWIN} {...said} />.
      </p>
    </details>
  );
}
