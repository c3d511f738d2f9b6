/** Contact poles, and a capacitor against its mark. */
import { NamedFigure } from "../../safety";
import { Spot, type Schemas } from "../../base";
import { Placed } from "./Placed";
import { Choose } from "../../safety";
import { POLES, type Body } from "./sheet";
import css from "./drawing.module.scss";

type View = Schemas["ShownOhmsView"];

export function Poles({ width }: { width: number }) {
  const height = 250;
  const x = (i: number) => width * (0.2 + 0.3 * i);
  return (
    <Spot className={css.stage} at={{ width, height }}>
      <svg viewBox={`0 0 ${width} ${height}`} role="img" aria-label="Contactor, pushed in">
        <path className={css.gang} d={`M${x(0) - 6} 74H${x(2) - 6}`} />
        {POLES.map((name, i) => (
          <path
            key={name}
            className={css.ink}
            d={`M${x(i)} 20V64M${x(i)} 84L${x(i) - 2} 64M${x(i)} 84V236M${x(i) - 5} 64a5 5 0 0 1 10 0`}
          />
        ))}
      </svg>
      {POLES.map((name, i) => (
        <Spot key={name} className={css.name} at={{ left: x(i) + 16, top: 30 }}>
          {i + 1}
        </Spot>
      ))}
      {POLES.map((name, i) => (
        <Placed key={name} name={name} x={x(i)} y={150} />
      ))}
    </Spot>
  );
}

const ROLES = [
  ["", "choose"],
  ["run", "run capacitor"],
  ["start", "start capacitor"],
] as const;
const BANDS = [
  ["", "choose"],
  ["6", "6"],
  ["10", "10"],
] as const;
const BLEEDER = [
  ["", "choose"],
  ["none", "none"],
  ["lifted", "lifted"],
  ["on", "still on"],
] as const;
const LOOKS = [
  ["", "choose"],
  ["sound", "sound"],
  ["bulged", "bulged"],
  ["oil", "oily"],
] as const;
const HERTZ = [
  ["", "choose"],
  ["50", "50"],
  ["60", "60"],
] as const;

interface Props {
  view: View;
  width: number;
  body: Body;
  say: (more: Partial<Body>) => void;
}
export function Capacitor({ view, width, body, say }: Props) {
  const said = { body, say };
  return (
    <>
      <p className="statesentence">
        A <Choose name="role" label="Capacitor" options={ROLES} {...said} />
        {body.role !== "start" && (
          <>
            , tolerance ± <Choose name="band" label="Marked tolerance, ±%" options={BANDS} {...said} /> %
          </>
        )}
        . Case <Choose name="looks" label="Case" options={LOOKS} {...said} />, bleed resistor{" "}
        <Choose name="bleeder" label="Bleed resistor" options={BLEEDER} {...said} />.
      </p>
      <Band view={view} width={width} />
      <div className={css.row}>
        <NamedFigure name="marked" />
        <NamedFigure name="read_uf" />
      </div>
      <p className="statesentence">
        Or in service, at <Choose name="hertz" label="Supply frequency, Hz" options={HERTZ} {...said} /> Hz:
      </p>
      <div className={css.row}>
        <NamedFigure name="cap_volts" />
        <NamedFigure name="cap_amps" />
      </div>
    </>
  );
}
/** Two plates, and the line on which the value stands against the band of its mark. */
function Band({ view, width }: { view: View; width: number }) {
  const band = view.band;
  const [y, middle] = [118, width / 2];
  const x = (at: number) => 20 + at * (width - 40);
  return (
    <Spot className={css.stage} at={{ width, height: 160 }}>
      <svg viewBox={`0 0 ${width} 160`} role="img" aria-label="Capacitor against its mark">
        <path className={css.ink} d={`M${middle - 60} 40H${middle - 6}M${middle + 6} 40H${middle + 60}`} />
        <path className={css.plate} d={`M${middle - 6} 16v48M${middle + 6} 16v48`} />
        {band && (
          <>
            <path className={css.dimline} d={`M20 ${y}H${width - 20}`} />
            <path className={css.band} d={`M${x(band.low_at)} ${y}H${x(band.high_at)}`} />
            <path className={css.ink} d={`M${x(band.low_at)} ${y - 8}v16M${x(band.high_at)} ${y - 8}v16`} />
            {band.value_at != null && (
              <path
                className={css.pointer}
                d={`M${x(band.value_at)} ${y - 4}l-7 -14h14z`}
                data-value="capacitance"
              />
            )}
          </>
        )}
      </svg>
      {band && (
        <>
          <Spot className={`mono ${css.name}`} at={{ left: x(band.low_at), top: y + 22 }}>
            {band.low.shown}
          </Spot>
          <Spot className={`mono ${css.name}`} at={{ left: x(band.high_at), top: y + 22 }}>
            {band.high.shown}
          </Spot>
        </>
      )}
    </Spot>
  );
}
