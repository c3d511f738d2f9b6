/** A drive's bridge: six legs between two rails, a diode above and below each, the bus between input and output. */
import { NamedFigure, useTools } from "../../safety";
import { Spot, type Schemas } from "../../base";
import { Placed } from "./Placed";
import { Choose } from "../../safety";
import { LEGS, LINES, type Body } from "./sheet";
import css from "./drawing.module.scss";

type View = Schemas["ShownOhmsView"];
const REVERSED = [
  ["", "–"],
  ["open", "OL"],
  ["not", "reads"],
] as const;
const RAILS = [
  ["", "choose"],
  ["climbs", "climbs, then over range"],
  ["steady", "stays where it is"],
  ["short", "shorted"],
] as const;
const EARTH = [
  ["", "choose"],
  ["open", "open"],
  ["fades", "a charge that fades"],
  ["steady", "a steady reading"],
] as const;
const KINDS = [
  ["", "six diodes"],
  ["half", "half-controlled"],
] as const;

interface Props {
  view: View;
  width: number;
  body: Body;
  say: (more: Partial<Body>) => void;
}
export function Bridge({ view, width, body, say }: Props) {
  const { narrow } = useTools();
  const height = narrow ? 330 : 360;
  const left = narrow ? 0 : 40;
  const gap = narrow ? 10 : 44;
  const step = (width - left - gap) / 6;
  const x = (i: number) => left + step * (i + 0.5) + (i > 2 ? gap : 0);
  const [top, bottom] = [34, height - 22];
  const [upper, middle, lower] = [top + 74, (top + bottom) / 2, bottom - 74];
  const state = (field: string) => view.diodes.find((d) => d.field === field)?.state ?? "";
  const bus = left + step * 3 + gap / 2;
  return (
    <>
      <div className={css.row}>
        <NamedFigure name="bus" />
        <NamedFigure name="bus_first" />
        <NamedFigure name="bus_between" />
        {view.wait && (
          <span className="dimfield">
            <span className="lab">still to wait</span>
            <span className="mono" data-value="wait">
              {view.wait.shown}
            </span>
          </span>
        )}
      </div>
      <Spot className={css.stage} at={{ width, height }}>
        <svg viewBox={`0 0 ${width} ${height}`} role="img" aria-label="Bridge of the drive">
          <path
            className={css.rail}
            d={`M${x(0) - 12} ${top}H${x(5) + 12}M${x(0) - 12} ${bottom}H${x(5) + 12}`}
          />
          <path className={css.ink} d={`M${bus} ${top}V${middle - 4}M${bus} ${middle + 4}V${bottom}`} />
          <path className={css.ink} d={`M${bus - 12} ${middle - 4}h24M${bus - 12} ${middle + 4}h24`} />
          {LEGS.map((leg, i) => (
            <g key={leg}>
              <path className={css.ink} d={`M${x(i)} ${top}V${bottom}`} />
              <Diode x={x(i)} y={top + 26} state={state(`plus_${leg}`)} />
              <Diode x={x(i)} y={bottom - 26} state={state(`minus_${leg}`)} />
            </g>
          ))}
        </svg>
        <Spot className={css.railname} at={{ left: 0, top: top - 30 }}>
          DC+
        </Spot>
        <Spot className={css.railname} at={{ left: 0, top: bottom + 2 }}>
          DC−
        </Spot>
        {LEGS.map((leg, i) => (
          <Spot key={leg} className={css.leg} at={{ left: x(i), top: middle }}>
            <b>{leg.toUpperCase()}</b>
            <Choose
              name={`back_${leg}`}
              label={`${leg.toUpperCase()} reversed`}
              options={REVERSED}
              body={body}
              say={say}
            />
          </Spot>
        ))}
        {LEGS.map((leg, i) => (
          <Placed key={`p${leg}`} name={`plus_${leg}`} x={x(i)} y={upper} bare />
        ))}
        {LEGS.map((leg, i) => (
          <Placed key={`m${leg}`} name={`minus_${leg}`} x={x(i)} y={lower} bare />
        ))}
      </Spot>
      <p className="mute">
        Diode mode: + lead on DC−, − lead on the terminal below; + lead on the terminal, − lead on DC+ above.
        At each letter: both reversed.
      </p>
      <p className="statesentence">
        DC+ to DC− <Choose name="rails" label="DC+ to DC−" options={RAILS} body={body} say={say} />; terminals
        to ground <Choose name="earth" label="Terminals to ground" options={EARTH} body={body} say={say} />;
        input bridge <Choose name="bridge" label="Input bridge" options={KINDS} body={body} say={say} />.
      </p>
      <div className={css.row}>
        {LINES.map((name) => (
          <NamedFigure key={name} name={name} />
        ))}
      </div>
    </>
  );
}
/** A diode on its leg, conducting upwards: filled where it is sound, broken where it is not. */
function Diode({ x, y, state }: { x: number; y: number; state: string }) {
  const bad = ["short", "open", "odd"].includes(state);
  const look = [css.diode, state === "sound" ? css.sound : "", bad ? css.broken : ""]
    .filter(Boolean)
    .join(" ");
  return (
    <g className={look} data-state={state}>
      <path d={`M${x - 9} ${y + 8}h18l-9 -15z`} />
      <path d={`M${x - 9} ${y - 8}h18`} />
    </g>
  );
}
