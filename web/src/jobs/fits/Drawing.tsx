/** A seat on its ring: the band of its fit and every reading on one scale of micrometres; and a dial for run-out. */
import type { EntryBody, Schemas } from "../../base";
import { useSheet } from "../../hydraulics";
import { Bench, Choose, NamedFigure, RecordEnd, Verdicts, type Given } from "../../safety";
import css from "../tools.module.scss";

type Body = EntryBody<"fits">;
type View = Schemas["ShownFitsView"];
const FIGURES = [
  "nominal",
  "d1",
  "d2",
  "d3",
  "d4",
  "off",
  "runout",
  "end_float",
  "float_limit",
  "hub_bore",
  "hub_shaft",
];
const WHAT = [
  ["", "seat or housing?"],
  ["shaft", "shaft seat"],
  ["housing", "housing bore"],
] as const;
const LOAD = [
  ["normal", "normal load"],
  ["heavy", "heavy load or rollers"],
] as const;
const SPUN = [
  ["", "spun?"],
  ["no", "has not spun"],
  ["yes", "has spun"],
] as const;
const COLD = [
  ["", "temperature?"],
  ["yes", "at room temperature"],
  ["no", "warm"],
] as const;
const TURN = [
  ["", "a whole turn?"],
  ["yes", "over a whole turn"],
  ["no", "not a whole turn"],
] as const;
const PLACES = [
  ["", "read where?"],
  ["seal", "shaft at the seal"],
  ["seal_610", "shaft at the seal, API 610"],
  ["seat", "bearing seat"],
  ["wheel_ring", "impeller ring"],
  ["hub", "hub rim or face"],
  ["cover", "seat or cover face"],
  ["box", "seal box bore to shaft"],
  ["motor_small", "motor shaft to 41 mm"],
  ["motor_large", "motor shaft over 41 mm"],
  ["face_small", "C-face to 190 mm circle"],
  ["face_large", "C-face above"],
] as const;

export function Drawing({ given }: { given: Given }) {
  const { tools, body, say, view } = useSheet<"fits", View>(given, { figures: FIGURES, kept: [] });
  const said = { body, say };
  return (
    <Bench tools={tools}>
      <p className="statesentence">
        A <Choose<Body> name="what" label="Seat or housing bore" options={WHAT} {...said} />,{" "}
        <Choose<Body> name="load" label="Load" options={LOAD} {...said} />, which{" "}
        <Choose<Body> name="spun" label="It has spun" options={SPUN} {...said} />, measured{" "}
        <Choose<Body> name="cold" label="Measured at room temperature" options={COLD} {...said} />
        {view?.letter && (
          <>
            {" "}
            : fit <strong className="mono">{view.letter}</strong>
          </>
        )}
        .
      </p>
      <div className={css.bench}>
        <div>
          <div className={css.row}>
            <NamedFigure name="nominal" label="nominal" />
            <NamedFigure name="d1" label="0°, inner" />
            <NamedFigure name="d2" label="90°, inner" />
            <NamedFigure name="d3" label="0°, outer" />
            <NamedFigure name="d4" label="90°, outer" />
            <NamedFigure name="off" label="instrument ±" />
          </div>
          {view && <Band view={view} />}
          <p className="statesentence">
            Dial at <Choose<Body> name="place" label="Run-out read at" options={PLACES} {...said} />{" "}
            <Choose<Body> name="whole_turn" label="One whole turn" options={TURN} {...said} />:
          </p>
          <div className={css.row}>
            <NamedFigure name="runout" label="run-out, TIR" />
            <NamedFigure name="end_float" label="end float" />
            <NamedFigure name="float_limit" label="its limit" />
            <NamedFigure name="hub_bore" label="hub bore" />
            <NamedFigure name="hub_shaft" label="shaft in it" />
          </div>
        </div>
        <div>
          <Verdicts />
          <RecordEnd />
        </div>
      </div>
    </Bench>
  );
}
/** The band as a block in the wall of the seat; a reading is a mark that is in it or not. */
function Band({ view }: { view: View }) {
  const y = (at: number) => 190 - at * 170;
  if (view.lower_at == null || view.upper_at == null) return null;
  return (
    <svg className={css.canvas} viewBox="0 0 600 210" role="img" aria-label="Readings against the fit">
      <path className={css.thin} d="M60 10V200" />
      <rect
        className={css.band}
        x="60"
        width="360"
        y={y(view.upper_at)}
        height={y(view.lower_at) - y(view.upper_at)}
      />
      <path
        className={css.limit}
        d={`M60 ${String(y(view.upper_at))}H420M60 ${String(y(view.lower_at))}H420`}
      />
      <text className={css.axis} x="428" y={y(view.upper_at) + 5}>
        {view.upper?.shown}
      </text>
      <text className={css.axis} x="428" y={y(view.lower_at) + 5}>
        {view.lower?.shown}
      </text>
      {view.readings_at.map((at, i) => (
        <g key={i}>
          <path className={css.thing} d={`M${String(100 + i * 80)} ${String(y(at))}h40`} />
          <circle className={css.full} cx={120 + i * 80} cy={y(at)} r="6" />
          <text className={css.axis} x={120 + i * 80} y={y(at) - 10} textAnchor="middle">
            {view.readings[i]?.shown}
          </text>
        </g>
      ))}
      {view.most && view.least && (
        <text className={css.axis} x="60" y="206">
          with its ring: {view.least.shown} to {view.most.shown} of interference
        </text>
      )}
    </svg>
  );
}
