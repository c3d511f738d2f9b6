/** How worn a pump is: the reading beside its curve, its past as a strip to the limit, the ring it points at. */
import type { EntryBody, Schemas } from "../../base";
import { Bench, Choose, Inline, NamedFigure, RecordEnd, Tick, Verdicts, type Given } from "../../safety";
import { Gauges } from "../Gauges";
import { Legs } from "../Legs";
import { LiquidWords } from "../Liquid";
import { FLUID_KEPT, GAUGE_KEPT, LEG_KEPT, OTHERS } from "../options";
import { Paper } from "../Paper";
import { useSheet } from "../useSheet";
import css from "../water.module.scss";

type Body = EntryBody<"wear">;
type View = Schemas["ShownWearView"];
const FLOW_BY = [
  ["", "known by?"],
  ["meter", "a clamp-on meter"],
  ["exchanger", "an exchanger's drop"],
  ["heat", "heat"],
  ["valve", "a balancing valve"],
  ["drawdown", "drawdown"],
] as const;
const IMPELLERS = [
  ["", "of what?"],
  ["metal", "metal"],
  ["plastic", "plastic"],
] as const;
const VOLATILE = [
  ["", "volatile?"],
  ["no", "not volatile"],
  ["yes", "volatile"],
] as const;
const FIGURES = ["suction", "discharge", "flow", "shut_suction", "shut_discharge", "ring_found"];
const KEPT = [
  ...FLUID_KEPT,
  ...GAUGE_KEPT,
  ...LEG_KEPT,
  "others",
  "flow_by",
  "impeller",
  "volatile",
  "sound_kw",
  "hours",
  "price",
];
interface Said {
  body: Body;
  say: (more: Partial<Body>) => void;
}
export function Drawing({ given }: { given: Given }) {
  const { tools, body, say, view } = useSheet<"wear", View>(given, {
    figures: FIGURES,
    order: ["suction", "discharge", "flow", "rpm", "temperature"],
    kept: KEPT,
  });
  const said = { body, say };
  return (
    <Bench tools={tools}>
      <p className="statesentence">
        Flow <Inline name="flow" />, known by{" "}
        <Choose name="flow_by" label="Flow known by" options={FLOW_BY} {...said} />; speed{" "}
        <Inline name="rpm" />, <Choose name="others" label="On its header" options={OTHERS} {...said} /> on
        its header, <LiquidWords {...said} />.{" "}
        <Tick name="settled" label="Settled for 2 min at this valve" {...said} />
      </p>
      <div className={css.bench}>
        <div>
          {tools.narrow && <Gauges {...said} />}
          {tools.narrow && <Verdicts />}
          {view?.curve && <Paper curve={view.curve} label="Curve of the pump, and the reading beside it" />}
          {view && view.past.length > 1 && <Strip view={view} />}
          <ShutOff view={view} {...said} />
        </div>
        <div>
          {!tools.narrow && <Gauges {...said} />}
          {!tools.narrow && <Verdicts />}
          <Legs />
          <Cost />
          <Ring view={view} />
          <RecordEnd />
        </div>
      </div>
    </Bench>
  );
}
/** Its own past as head at flow, of its curve's: towards the limit. */
function Strip({ view }: { view: View }) {
  const at = ([x = 0, y = 0]: readonly number[]) => `${String(10 + x * 560)} ${String(110 - y * 100)}`;
  const line = (places: readonly (readonly number[])[]) =>
    places.map((p, i) => `${i ? "L" : "M"}${at(p)}`).join("");
  return (
    <svg
      viewBox="0 0 580 126"
      role="img"
      aria-label="Head at flow over its records"
      data-strip={view.past.length}
    >
      {view.limits.map((v, i) => (
        <path key={v} className={i ? css.floor : css.law} d={`M10 ${String(110 - v * 100)}H570`} />
      ))}
      <text className={css.axis} x="10" y="14">
        head at flow, of its curve
      </text>
      <text className={css.axis} x="570" y={108 - (view.limits[0] ?? 0) * 100} textAnchor="end">
        watch
      </text>
      <text className={css.axis} x="570" y={124 - (view.limits[1] ?? 0) * 100} textAnchor="end">
        act
      </text>
      <path className={css.seen} d={line(view.past)} />
      <path className={css.closed} d={line(view.path)} />
      {view.past.map(([x = 0, y = 0]) => (
        <circle key={x} className={css.point} cx={10 + x * 560} cy={110 - y * 100} r="4" />
      ))}
    </svg>
  );
}
function ShutOff({ view, body, say }: Said & { view: View | null }) {
  const said = { body, say };
  const open = Boolean(body.shut_discharge ?? body.shut_suction);
  return (
    <details className={css.more} open={open || undefined}>
      <summary>Shut-off test</summary>
      {view && !view.offered ? (
        view.refused.map((r) => (
          <p key={r} className="notice bad" data-never>
            {r}
          </p>
        ))
      ) : (
        <>
          <div className={css.row}>
            <NamedFigure name="shut_suction" label="suction, valve shut" />
            <NamedFigure name="shut_discharge" label="discharge, valve shut" />
            <NamedFigure name="shut_seconds" label="shut for" />
            <NamedFigure name="shut_rpm" label="speed" />
          </div>
          <p className={css.ticks}>
            <Tick name="vented" label="Full and vented" {...said} />
            <Tick name="rated" label="Discharge side is rated for it" {...said} />
          </p>
        </>
      )}
      <p className="statesentence">
        Impeller <Choose name="impeller" label="Impeller" options={IMPELLERS} {...said} />, liquid{" "}
        <Choose name="volatile" label="Volatile liquid" options={VOLATILE} {...said} />.
      </p>
    </details>
  );
}
function Cost() {
  return (
    <details className={css.more}>
      <summary>What it costs</summary>
      <div className={css.row}>
        <NamedFigure name="sound_kw" label="input power when sound" />
        <NamedFigure name="now_kw" label="input power now" />
        <NamedFigure name="hours" label="hours a year" />
        <NamedFigure name="price" label="price of a kWh" />
      </div>
    </details>
  );
}
/** The ring's gap drawn large: new, pointed at, found. */
function Ring({ view }: { view: View | null }) {
  const ring = view?.ring;
  const rows: [string, number | null | undefined][] = [
    ["new", ring?.new],
    ["pointed at", ring?.points_at],
    ["found", ring?.found],
  ];
  return (
    <section className={css.part} aria-label="Wear ring">
      <NamedFigure name="ring_found" label="wear ring clearance found" />
      {ring && (
        <svg viewBox="0 0 420 96" role="img" aria-label="Clearance of the wear ring" data-ring>
          {rows.map(
            ([says, v], i) =>
              v != null && (
                <g key={says}>
                  <text className={css.axis} x="96" y={24 + i * 28} textAnchor="end">
                    {says}
                  </text>
                  <path
                    className={i === 1 ? css.closed : css.seen}
                    d={`M106 ${String(20 + i * 28)}H${String(106 + v * 290)}`}
                  />
                </g>
              ),
          )}
        </svg>
      )}
    </section>
  );
}
