/** The impeller in its ring, seen along the shaft: the gap at each point of the clock, drawn in times of new. */
import type { EntryBody, Schemas } from "../../base";
import { useSheet } from "../../hydraulics";
import { Bench, Choose, NamedFigure, RecordEnd, Verdicts, type Given } from "../../safety";
import css from "../tools.module.scss";

type Body = EntryBody<"rings">;
type View = Schemas["ShownRingsView"];
const POINTS = ["1", "2", "3", "4"].flatMap((n) => [`bore_${n}`, `wheel_${n}`]);
const KEPT = ["diameter", "new", "hours", "price", "efficiency"];
const TABLE = [
  ["", "the manufacturer's figure"],
  ["small", "the rule for small cold-water pumps"],
  ["api", "the API 610 table"],
] as const;
const GALLING = [
  ["", "materials?"],
  ["no", "no galling pair, cold"],
  ["yes", "galling pair or hot"],
] as const;
const SPUN = [
  ["", "land spun?"],
  ["no", "land has not spun"],
  ["yes", "land has spun"],
] as const;
const CLOCK = ["12", "3", "1:30", "4:30"];

export function Drawing({ given }: { given: Given }) {
  const { tools, body, say, view } = useSheet<"rings", View>(given, {
    figures: [...POINTS, ...KEPT, "head"],
    kept: [...KEPT, "table", "galling"],
  });
  const said = { body, say };
  return (
    <Bench tools={tools}>
      <p className="statesentence">
        New by{" "}
        <Choose<Body> name="table" label="Without the manufacturer's figure" options={TABLE} {...said} />,{" "}
        <Choose<Body> name="galling" label="Galling materials or hot liquid" options={GALLING} {...said} />;{" "}
        <Choose<Body> name="spun" label="Its land has spun" options={SPUN} {...said} />
        {view?.new && (
          <>
            : <strong className="mono">{view.new.shown}</strong> when new
          </>
        )}
        .
      </p>
      <div className={css.bench}>
        <div>
          <div className={css.row}>
            <NamedFigure name="diameter" label="ring diameter" />
            <NamedFigure name="new" label="clearance when new" />
          </div>
          {CLOCK.map((at, i) => (
            <div key={at} className={css.row} data-clock={at}>
              <NamedFigure name={`bore_${String(i + 1)}`} label={`ring bore, ${at}`} />
              <NamedFigure name={`wheel_${String(i + 1)}`} label={`impeller ring, ${at}`} />
            </div>
          ))}
          {view && <Clock view={view} />}
          <div className={css.row}>
            <NamedFigure name="head" label="pump head" />
            <NamedFigure name="efficiency" label="pump and motor" />
            <NamedFigure name="hours" label="hours a year" />
            <NamedFigure name="price" label="price of a kWh" />
          </div>
          {view?.leak && (
            <p className={css.said} data-leak>
              Goes round again: <strong className="mono">{view.leak.shown}</strong>
              {view.leak_new && `, ${view.leak_new.shown} when new`}
              {view.energy && `; ${view.energy.shown} a year`}
              {view.cost && `, ${view.cost.shown} of money`} <span className="mute">(indicative)</span>
            </p>
          )}
        </div>
        <div>
          <Verdicts />
          <RecordEnd />
        </div>
      </div>
    </Bench>
  );
}
const TURN = [-90, 0, -45, 45];
function Clock({ view }: { view: View }) {
  return (
    <svg className={css.canvas} viewBox="0 0 600 260" role="img" aria-label="Ring clearance by the clock">
      <circle className={css.thing} cx="300" cy="130" r="80" />
      <circle className={css.limit} cx="300" cy="130" r="118" />
      {view.gaps.map((g, i) => {
        const times = Math.min(view.times[i] ?? 1, 3);
        const a = ((TURN[i] ?? 0) * Math.PI) / 180;
        const from = 118 - times * 12;
        const p = (r: number): string => `${String(300 + r * Math.cos(a))} ${String(130 + r * Math.sin(a))}`;
        return (
          <g key={i} data-gap={i}>
            <path className={times > 2 ? css.wrong : css.water} d={`M${p(from)}L${p(118)}`} />
            <text
              className={css.axis}
              x={300 + 150 * Math.cos(a)}
              y={134 + 150 * Math.sin(a) * 0.82}
              textAnchor="middle"
            >
              {g.shown}
            </text>
          </g>
        );
      })}
    </svg>
  );
}
