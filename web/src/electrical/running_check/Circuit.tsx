/** Three legs from the supply to the motor, figures where they belong, gauges that rise with the amps. */
import { FigureInput, small, Spot, type Schemas, type Shown } from "../../base";
import { useFigure, useTools } from "../../safety";
import { AMPS, VOLTS, type FigureName } from "./sheet";
import css from "./drawing.module.scss";

type Ghost = Schemas["Ghost"];
type View = Schemas["ShownRunningCheckView"];
interface Props {
  width: number;
  phases: number;
  plate: string[];
  view: View | null;
}
const TOP = 14;

export function Circuit({ width: w, phases, plate, view }: Props) {
  const { answer } = useTools();
  const narrow = w < 480;
  const legs = phases === 1 ? [w * 0.5] : narrow ? [w * 0.19, w * 0.5, w * 0.81] : [120, 280, 440];
  const [y12, y31, yA] = narrow ? [42, 112, 182] : [54, 128, 212];
  const gauge = yA + 76;
  const gaugeH = narrow ? 58 : 62;
  const motorY = gauge + gaugeH + 46;
  const height = motorY + (narrow ? 36 : 30);
  const mark = (name: string) => view?.marks.find((m) => m.name === name);
  const volts: [FigureName, number, number][] =
    phases === 1
      ? [["volts_12", w * 0.5, y12]]
      : [
          ["volts_12", (legs[0]! + legs[1]!) / 2, y12],
          ["volts_23", (legs[1]! + legs[2]!) / 2, y12],
          ["volts_31", (legs[0]! + legs[1]!) / 2, y31],
        ];
  const spans: [number, number, number][] =
    phases === 1
      ? []
      : [
          [legs[0]!, legs[1]!, y12],
          [legs[1]!, legs[2]!, y12],
          [legs[0]!, legs[2]!, y31],
        ];
  return (
    <Spot className={css.circuit} at={{ height, width: w }}>
      <svg viewBox={`0 0 ${w} ${height}`} aria-hidden="true">
        {legs.map((x, i) => (
          <g key={x}>
            <text className={css.leg} x={x} y={TOP} textAnchor="middle">
              {phases === 1 ? "L" : `L${i + 1}`}
            </text>
            <path
              className={css.ink}
              d={`M${x} ${TOP + 8}V${gauge}M${x} ${gauge + gaugeH}V${motorY - 34}${phases === 1 ? `V${motorY - 26}` : `L${legs[1]! + (x - legs[1]!) * 0.18} ${motorY - (i === 1 ? 26 : 18)}`}`}
            />
          </g>
        ))}
        {spans.map(([a, b, y]) => (
          <path
            key={`${a}${b}${y}`}
            className={css.dimline}
            d={`M${a} ${y}H${b}M${a + 8} ${y - 4}L${a} ${y}L${a + 8} ${y + 4}M${b - 8} ${y - 4}L${b} ${y}L${b - 8} ${y + 4}`}
          />
        ))}
        {!narrow && (
          <>
            <text x={0} y={y12 - 3}>
              voltage
            </text>
            <text x={0} y={y12 + 13}>
              line to line
            </text>
            <text x={0} y={yA + 4}>
              current
            </text>
          </>
        )}
        {legs.map((x, i) => (
          <Gauge
            key={x}
            x={x}
            top={gauge}
            height={gaugeH}
            mark={mark(AMPS[i]!)}
            plate={mark("plate")?.at}
            sf={mark("service_factor")?.at}
          />
        ))}
        {!narrow && (
          <GaugeWords
            x={Math.min(legs.at(-1)! + 34, w - 76)}
            top={gauge}
            height={gaugeH}
            plate={mark("plate")}
            sf={mark("service_factor")}
            answer={answer}
          />
        )}
        <circle className={css.ink} cx={legs[phases === 1 ? 0 : 1]} cy={motorY} r={26} />
        <text
          className={`${css.leg} ${small.legLetter}`}
          x={legs[phases === 1 ? 0 : 1]}
          y={motorY + 6}
          textAnchor="middle"
        >
          M
        </text>
      </svg>
      <Spot
        className={`mono mute ${css.platewords}`}
        at={{ left: legs[phases === 1 ? 0 : 1]! + (narrow ? 34 : 40), top: motorY - (narrow ? 4 : 18) }}
      >
        {plate.map((l) => (
          <div key={l}>{l}</div>
        ))}
      </Spot>
      {volts.map(([name, x, y]) => (
        <Figure key={name} name={name} x={x} y={y} />
      ))}
      {(phases === 1 ? AMPS.slice(0, 1) : AMPS).map((name, i) => (
        <Figure key={name} name={name} x={legs[i]!} y={yA} />
      ))}
    </Spot>
  );
}

function Gauge({
  x,
  top,
  height,
  mark,
  plate,
  sf,
}: {
  x: number;
  top: number;
  height: number;
  mark: Schemas["Mark"] | undefined;
  plate: number | undefined;
  sf: number | undefined;
}) {
  const y = (at: number) => top + height * (1 - at);
  return (
    <g>
      <rect className={css.gauge} x={x - 10} y={top} width={20} height={height} />
      {mark && (
        <rect
          className={`${css.gaugefill} v-${mark.verdict}`}
          x={x - 10}
          y={y(mark.at)}
          width={20}
          height={height * mark.at}
        />
      )}
      {plate !== undefined && <path className={css.ink} d={`M${x - 22} ${y(plate)}h44`} />}
      {sf !== undefined && <path className={css.dimline} d={`M${x - 17} ${y(sf)}h34`} />}
    </g>
  );
}
function GaugeWords({
  x,
  top,
  height,
  plate,
  sf,
  answer,
}: {
  x: number;
  top: number;
  height: number;
  plate: Schemas["Mark"] | undefined;
  sf: Schemas["Mark"] | undefined;
  answer: Shown | null;
}) {
  const y = (at: number) => top + height * (1 - at) + 4;
  const py = plate ? y(plate.at) : 0;
  const sy = sf ? Math.min(y(sf.at), py - 15) : 0;
  return (
    <g>
      {plate && (
        <text x={x} y={py}>
          nameplate {answer?.values.plate_amps?.figure}
        </text>
      )}
      {sf && (
        <text x={x} y={sy}>
          SF current {answer?.values.service_factor_amps?.figure}
        </text>
      )}
    </g>
  );
}

function Figure({ name, x, y }: { name: FigureName; x: number; y: number }) {
  const { answer, given, narrow } = useTools();
  const { props, refused } = useFigure(name);
  const ghosts = (answer?.ghosts ?? []).filter((g) => g.field === name);
  const estimated = answer?.values[`${name}_estimated`];
  const volts = (VOLTS as readonly string[]).includes(name);
  return (
    <Spot className={refused ? `${css.figure} refused` : css.figure} at={{ left: x, top: y - 24 }}>
      <FigureInput
        {...props}
        className={given.mode === "pencil" ? "pencil" : ""}
        unitClass="unit"
        describedBy={`${name}-behind`}
        {...(narrow ? { units: [] } : {})}
      />
      <div id={`${name}-behind`}>
        {!props.value?.text && estimated && (
          <div className={css.est} title="Estimated from the legs entered">
            est. {estimated.figure}
          </div>
        )}
        {ghosts.slice(0, volts || narrow ? 1 : 2).map((g) => (
          <GhostLine key={g.whose} ghost={g} />
        ))}
      </div>
    </Spot>
  );
}
function GhostLine({ ghost: g }: { ghost: Ghost }) {
  const whose = g.whose === "last" ? "" : `${g.whose} `;
  return (
    <div className="ghost">
      <span className={g.differs ? css.crossed : ""}>
        {whose}
        {g.text}
      </span>
      {g.differs && <span className={css.word}>&nbsp;{g.differs}</span>}
    </div>
  );
}
