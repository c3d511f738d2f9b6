/** Over nameplate current and a valve: what closing it would leave, and the valve itself, closed by its turns. */
import type { EntryBody, Schemas } from "../../base";
import { Bench, Choose, NamedFigure, RecordEnd, Tick, useTools, Verdicts, type Given } from "../../safety";
import { Legs } from "../Legs";
import { LiquidWords } from "../Liquid";
import { FLOORS, FLUID_KEPT, LEG_KEPT, LEGS } from "../options";
import { Options } from "../Options";
import { Paper } from "../Paper";
import { rowsOf, without, type Row } from "../rows";
import { useSheet } from "../useSheet";
import { Year } from "./Year";
import css from "../water.module.scss";

type Body = EntryBody<"throttle">;
type View = Schemas["ShownThrottleView"];
const WHERE = [
  ["", "which valve?"],
  ["discharge", "discharge"],
  ["suction", "suction"],
] as const;
const CURES = [
  ["", "lasting cure?"],
  ["balance", "balance the branches"],
  ["trim", "trim the impeller"],
  ["speed", "lower the speed"],
  ["motor", "fit the right motor"],
] as const;
const NEEDS = ["need", "floor", "static", "hours", "price", "turns_full"];
const KEPT = [...FLUID_KEPT, ...LEG_KEPT, ...NEEDS, "floor_of", "closed"];
interface Said {
  body: Body;
  say: (more: Partial<Body>) => void;
}
export function Drawing({ given }: { given: Given }) {
  const { tools, body, say, row, view } = useSheet<"throttle", View>(given, {
    figures: LEGS,
    order: [...LEGS, "volts", "idle_amps", "need", "floor", "static"],
    kept: KEPT,
    lists: { steps: ["turns", ...LEGS], profile: ["hours", "share"] },
  });
  const said = { body, say };
  return (
    <Bench tools={tools}>
      <p className="statesentence">
        Close the <Choose name="where" label="Valve that would be closed" options={WHERE} {...said} /> valve;{" "}
        <LiquidWords {...said} />.
      </p>
      <div className={css.bench}>
        <div>
          <Legs />
          {view?.curve ? (
            <Paper
              curve={view.curve}
              label="Curve of the pump, and the valve closed in"
              tryAt={body.try_at ?? null}
              {...(view.options.length ? { onTry: (at: number | null) => say({ try_at: at }) } : {})}
            />
          ) : (
            <p className="mute">No curve yet: enter it on the nameplate of the wet end.</p>
          )}
          <Year view={view} body={body} />
        </div>
        <div>
          <Verdicts />
          {view && (
            <Options options={view.options} says={view.says}>
              {body.try_at != null && (
                <button type="button" className="btn-line" onClick={() => say({ try_at: null })}>
                  Clear
                </button>
              )}
            </Options>
          )}
          <Asked {...said} />
          <Steps view={view} row={row} {...said} />
          <RecordEnd />
        </div>
      </div>
    </Bench>
  );
}
function Asked({ body, say }: Said) {
  const said = { body, say };
  return (
    <>
      <div className={css.row}>
        <NamedFigure name="need" label="flow needed" />
        <NamedFigure name="floor" label="least flow allowed" />
        <NamedFigure name="static" label="static head" />
        <NamedFigure name="flow" label="flow, known otherwise" />
        <NamedFigure name="suction" label="suction pressure" />
        <NamedFigure name="hours" label="hours a year" />
        <NamedFigure name="price" label="price of a kWh" />
      </div>
      <p className="statesentence">
        The least flow is needed by <Choose name="floor_of" label="Needed by" options={FLOORS} {...said} />.{" "}
        <Tick name="closed" label="Closed loop: no static head" {...said} />
      </p>
    </>
  );
}
function Steps({
  view,
  body,
  say,
  row,
}: Said & { view: View | null; row: (list: string, at: number, more: Row) => void }) {
  const { may } = useTools();
  const rows = rowsOf(body, "steps");
  return (
    <section className={css.part} aria-label="At the valve">
      <div className={css.row}>
        <NamedFigure name="turns_full" label="turns of the valve in all" />
        <Wheel view={view} />
      </div>
      <ol className={css.rows}>
        {rows.map((r, i) => (
          <li key={i} data-step={i}>
            <div className={css.row}>
              <NamedFigure name={`steps.${String(i)}.turns`} label="turns open" />
              {[1, 2, 3].map((n) => (
                <NamedFigure key={n} name={`steps.${String(i)}.amps_${String(n)}`} label={`L${String(n)}`} />
              ))}
              <label className="confirm">
                <input
                  type="checkbox"
                  disabled={!may}
                  checked={Boolean(r.waited)}
                  onChange={(e) => row("steps", i, { waited: e.target.checked || null })}
                />{" "}
                Waited 2 min
              </label>
              {may && (
                <button
                  type="button"
                  className="linklike"
                  onClick={() => say({ steps: without(body, "steps", i) } as Partial<Body>)}
                >
                  Remove
                </button>
              )}
            </div>
          </li>
        ))}
      </ol>
      {may && (
        <button
          type="button"
          className="btn-line"
          onClick={() => say({ steps: [...rows, { waited: null }] } as Partial<Body>)}
        >
          Next place of the valve
        </button>
      )}
      {rows.length > 0 && (
        <p className="statesentence">
          Left so until{" "}
          <input
            type="date"
            className={`inline-input ${css.dateinput}`}
            aria-label="Left so until"
            readOnly={!may}
            value={body.until ?? ""}
            onChange={(e) => say({ until: e.target.value || null })}
          />
          ; then <Choose name="cure" label="Lasting cure" options={CURES} body={body} say={say} />.
        </p>
      )}
    </section>
  );
}
/** The valve's stem from open to shut, a stroke at each place it stood. */
function Wheel({ view }: { view: View | null }) {
  const places = (view?.steps ?? []).filter((s) => s.share != null);
  if (!places.length) return null;
  return (
    <svg viewBox="0 0 260 60" width="260" role="img" aria-label="Places of the valve, shut to open">
      <path className={css.thing} d="M10 40H250M10 32V48M250 32V48" />
      <text className={css.axis} x="10" y="24">
        shut
      </text>
      <text className={css.axis} x="250" y="24" textAnchor="end">
        open
      </text>
      {places.map((s, i) => (
        <path
          key={i}
          className={`${css.seen} ${s.over ? css.over : ""}`}
          d={`M${String(10 + (s.share ?? 0) * 240)} 30V50`}
        />
      ))}
    </svg>
  );
}
