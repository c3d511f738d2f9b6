/** The sensors in a motor: thermistors in the winding heads, one string; the probe in the oil of the seal chamber. */
import { NamedFigure } from "../../safety";
import { Spot } from "../../base";
import { Placed } from "./Placed";
import { Choose } from "../../safety";
import type { Body } from "./sheet";
import css from "./drawing.module.scss";

const SERIES = [
  ["", "choose"],
  ["1", "one"],
  ["3", "three"],
  ["6", "six"],
] as const;
const LEAD = [
  ["", "choose"],
  ["whole", "seen at the panel: the lead is whole"],
  ["not", "not seen at the panel"],
] as const;

interface Props {
  width: number;
  body: Body;
  say: (more: Partial<Body>) => void;
}
export function Sensors({ width, body, say }: Props) {
  const height = 300;
  const middle = width * 0.3;
  const shaft = 116;
  const chamber = width * 0.74;
  const count = Number(body.in_series ?? 3);
  const right = width * 0.58 - 34;
  // Side by side in the winding's overhang, the first and the last with a lead to the outside.
  const heads = Array.from({ length: count }).map((_, i) =>
    count === 1 ? middle : 64 + (i * (right - 64)) / (count - 1),
  );
  return (
    <>
      <Spot className={css.stage} at={{ width, height }}>
        <svg viewBox={`0 0 ${width} ${height}`} role="img" aria-label="Sensors in the motor">
          <path className={css.ink} d={`M30 54H${width * 0.58}V178H30z`} />
          <path className={css.ink} d={`M10 ${shaft - 7}H${width - 10}M10 ${shaft + 7}H${width - 10}`} />
          <path
            className={css.ink}
            d={`M46 66h${width * 0.58 - 62}v24H46zM46 142h${width * 0.58 - 62}v24H46z`}
          />
          <path className={css.ink} d={`M${width * 0.62} 62H${width * 0.88}V170H${width * 0.62}z`} />
          <path className={css.dimline} d={`M${width * 0.62} 138H${width * 0.88}`} />
          <path className={css.plate} d={`M${chamber} 62V30M${chamber - 8} 62h16M${chamber} 62v84`} />
          <path className={css.ink} d={`M${heads[0] ?? 60} 78V30M${heads.at(-1) ?? 60} 78V40`} />
          <path className={css.ink} d={`M${heads[0] ?? 60} 78H${heads.at(-1) ?? 60}`} />
          {heads.map((x, i) => (
            <g key={i}>
              <rect className={css.bead} x={x - 9} y={71} width={18} height={14} />
              <path className={css.ink} d={`M${x - 13} 90l5 0l13 -24`} />
            </g>
          ))}
        </svg>
        <Placed name="thermistor" x={middle} y={214} />
        <Placed name="moisture" x={chamber} y={214} />
      </Spot>
      <p className="statesentence">
        <Choose name="in_series" label="Thermistors in series" options={SERIES} body={body} say={say} />{" "}
        thermistors in series.
      </p>
      <div className={css.row}>
        <NamedFigure name="moisture_least" />
      </div>
      <p className="statesentence">
        Probe bridged at the motor:{" "}
        <Choose
          name="probe_lead"
          label="Probe lead, bridged at the motor"
          options={LEAD}
          body={body}
          say={say}
        />
        .
      </p>
    </>
  );
}
