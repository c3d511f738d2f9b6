/** Which way it turns: what stands before the bump, the shaft in every mode, and where leads were exchanged. */
import type { Schemas } from "../../base";
import {
  Bench,
  NamedFigure,
  NotToBeStarted,
  RecordEnd,
  useBench,
  useOneEntry,
  Verdicts,
  type Given,
} from "../../safety";
import { Choose, Tick } from "../../safety";
import { Shafts, type Body } from "./Shafts";
import css from "./drawing.module.scss";

type View = Schemas["DirectionView"];
const HEADS = ["head_now", "head_other"];
const EMPTY: View = {
  arrow: "",
  seen_from: "",
  modes: [],
  firsts: [],
  waits: 0,
  places: [],
  single: false,
  one_body: false,
};
const AFTER = [
  ["", "choose"],
  ["first", "before its first start"],
  ["swap", "after the motor was exchanged"],
  ["supply", "after work on supply or panel"],
  ["routine", "as a routine"],
] as const;
const YES = [
  ["", "choose"],
  ["yes", "yes"],
  ["no", "no"],
] as const;
const ARROWS = [
  ["", "choose"],
  ["cw", "clockwise"],
  ["ccw", "counter-clockwise"],
  ["none", "no arrow"],
] as const;
const ENDS = [
  ["", "choose"],
  ["drive_end", "drive end"],
  ["pump_end", "pump end"],
] as const;
const PROOFS = [
  ["", "choose"],
  ["bump", "a bump, shaft seen"],
  ["meters", "lead and line phase-order meters, dead"],
  ["slow_motion", "a slow-motion picture"],
  ["casing_twist", "the twist of the casing, lifted clear"],
  ["shut_off", "shut-off pressure both ways"],
  ["flow", "flow"],
  ["amps", "current"],
  ["drive_arrow", "the drive's display"],
] as const;
const COUPLED = [
  ["", "choose"],
  ["yes", "coupled"],
  ["no", "uncoupled"],
] as const;
const ORDER = [
  ["", "choose"],
  ["123", "1-2-3"],
  ["321", "3-2-1"],
] as const;

export function Drawing({ given }: { given: Given }) {
  const sheet = useOneEntry<"direction">(given, {
    figures: HEADS,
    kept: ["threaded", "one_way", "arrow", "seen_from"],
    also: (b: Body) => Boolean(b.proof ?? b.turns_back ?? b.bumped),
  });
  const tools = useBench<View>(given, { ...sheet.own, order: HEADS });
  const said = { body: sheet.body, say: sheet.change };
  const view = tools.answer?.view ?? EMPTY;
  return (
    <Bench tools={tools} before={given.mode === "new" && <NotToBeStarted set={given.set} />}>
      <p className="statesentence">
        Proved <Choose name="after" label="Proved after" options={AFTER} {...said} />. The arrow on the casing
        is <Choose name="arrow" label="Arrow on the casing" options={ARROWS} {...said} />, seen from the{" "}
        <Choose name="seen_from" label="Seen from" options={ENDS} {...said} />. Threaded impeller or line
        shaft: <Choose name="threaded" label="Threaded impeller or line shaft" options={YES} {...said} />;
        seal, ratchet or relief for one direction only:{" "}
        <Choose name="one_way" label="One direction only" options={YES} {...said} />.
      </p>
      <div className={css.bench}>
        <div>
          <Before {...said} view={view} />
          <p className="statesentence">
            Proved by <Choose name="proof" label="Proved by" options={PROOFS} {...said} />{" "}
            <Tick name="bumped" label="Bumped" {...said} />
          </p>
          <Meters {...said} />
          <Shafts view={view} {...said} />
          {view.modes.some((m) => m.id === "drive") && (
            <p>
              <Tick name="hand_auto" label="Hand and auto both tried" {...said} />
            </p>
          )}
        </div>
        <div>
          <Verdicts />
          <Exchange {...said} view={view} />
          <p className="statesentence">
            Turns backwards with its power off:{" "}
            <Choose name="turns_back" label="Turns backwards with its power off" options={YES} {...said} />.
            Another set found wrong the same day:{" "}
            <Choose name="others" label="Another set found wrong the same day" options={YES} {...said} />.
          </p>
          <RecordEnd />
        </div>
      </div>
    </Bench>
  );
}
interface Said {
  body: Body;
  say: (more: Partial<Body>) => void;
}
/** What stands before a bump, on this kind of set; each with what it saves. */
function Before({ body, say, view }: Said & { view: View }) {
  const said = { body, say };
  return (
    <section className={css.before} aria-label="Before the bump">
      <h3>
        {view.waits ? `Before the bump: ${String(view.waits)} still open` : "Before the bump: all entered"}
      </h3>
      {!view.one_body && (
        <p className="statesentence">
          For the bump it is{" "}
          <Choose name="coupled" label="Coupled for the bump" options={COUPLED} {...said} />.
        </p>
      )}
      <ul>
        {view.firsts.map((f) => (
          <li key={f.id} data-first={f.id} data-done={f.done}>
            {f.field ? (
              <Tick name={f.field as keyof Body & string} label={f.title} {...said} />
            ) : (
              <span className={css.read}>{f.done ? `${f.title}: yes` : `${f.title}: not yet`}</span>
            )}
            <span className="mute">{f.why}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}
/** The two orders that a dead proof is made of, and the two pressures of the last resort. */
function Meters({ body, say }: Said) {
  const said = { body, say };
  if (body.proof === "meters")
    return (
      <p className="statesentence">
        Line <Choose name="line_order" label="Phase order of the line" options={ORDER} {...said} />, motor
        turned by hand with the arrow{" "}
        <Choose name="motor_order" label="Order of the motor's leads" options={ORDER} {...said} />.
      </p>
    );
  if (body.proof !== "shut_off") return null;
  return (
    <div className={css.row}>
      <NamedFigure name="head_now" label="shut-off pressure, as it turns now" />
      <NamedFigure name="head_other" label="the other way" />
    </div>
  );
}
/** Which two were exchanged and where; the places that would turn round just what is wrong stand first. */
function Exchange({ body, say, view }: Said & { view: View }) {
  const said = { body, say };
  const pairs = view.single ? ["start winding"] : ["L1-L2", "L2-L3", "L3-L1", "parameter"];
  const places = [...view.places].sort((a, b) => Number(b.fits) - Number(a.fits));
  return (
    <section className={css.exchange} aria-label="Exchanged">
      <p className="statesentence">
        Exchanged{" "}
        <Choose
          name="exchanged"
          label="Exchanged"
          options={[["", "nothing"], ...pairs.map((p) => [p, p] as const)]}
          {...said}
        />{" "}
        <Choose
          name="exchanged_at"
          label="Exchanged where"
          options={[["", "where?"], ...places.map((p) => [p.id, p.title] as const)]}
          {...said}
        />
      </p>
      <ul>
        {places.map((p) => (
          <li key={p.id} data-place={p.id} className={p.fits ? css.fits : "mute"}>
            {p.title}
            {p.turns ? view.modes.length > 1 && `: turns it round ${p.turns}` : ": turns nothing round"}
          </li>
        ))}
      </ul>
    </section>
  );
}
