/** The suction side as a standing scale of metres: what presses, what is lost, what is left for the pump. */
import type { EntryBody, Schemas } from "../../base";
import { Bench, Choose, NamedFigure, RecordEnd, Verdicts, type Given } from "../../safety";
import { LiquidWords } from "../Liquid";
import { CLASSES, FLUID_KEPT, PRESSURES } from "../options";
import { useSheet } from "../useSheet";
import { Noise } from "./Noise";
import css from "../water.module.scss";

type Body = EntryBody<"suction">;
type View = Schemas["ShownSuctionView"];
const BY = [
  ["", "by what?"],
  ["gauge", "the suction gauge"],
  ["level", "level and friction"],
] as const;
const SURFACE = [
  ["", "open or closed?"],
  ["open", "open"],
  ["closed", "closed"],
] as const;
const FLOWS = [
  ["", "flow as then?"],
  ["same", "at the same flow"],
  ["other", "at another flow"],
] as const;
const FIGURES = ["suction", "level", "flow", "strainer_drop", "submerged"];
const KEPT = [
  ...FLUID_KEPT,
  "npsh_by",
  "pressures",
  "suction_z",
  "suction_bore",
  "suction_top",
  "gauge_class",
  "surface",
  "level_u",
  "altitude",
  "strainer_clean",
  "bell",
];
interface Said {
  body: Body;
  say: (more: Partial<Body>) => void;
}
export function Drawing({ given }: { given: Given }) {
  const { tools, body, say, view } = useSheet<"suction", View>(given, {
    figures: FIGURES,
    order: ["suction", "level", "loss", "flow", "npshr", "npshr_flow"],
    kept: KEPT,
    also: (b) => Boolean(b.sound),
  });
  const said = { body, say };
  return (
    <Bench tools={tools}>
      <p className="statesentence">
        NPSH available by <Choose name="npsh_by" label="NPSH available by" options={BY} {...said} />,{" "}
        <LiquidWords {...said} />.
      </p>
      <div className={css.bench}>
        <div>
          <Fields {...said} />
          <Sump view={view} by={body.npsh_by ?? ""} />
          {view && view.parts.length > 0 && <Scale view={view} />}
          <Around {...said} needed={view?.needed?.shown ?? ""} />
        </div>
        <div>
          <Verdicts />
          <Noise view={view} {...said} />
          <RecordEnd />
        </div>
      </div>
    </Bench>
  );
}
function Fields({ body, say }: Said) {
  const said = { body, say };
  return (
    <>
      {body.npsh_by === "gauge" && (
        <>
          <div className={css.row}>
            <NamedFigure name="suction" label="suction pressure" />
            <NamedFigure name="suction_z" label="gauge above centre" />
            <NamedFigure name="suction_bore" label="bore at the gauge" />
            <NamedFigure name="suction_top" label="gauge, full scale" />
          </div>
          <p className="statesentence">
            Read as{" "}
            <Choose name="pressures" label="Gauge or absolute pressure" options={PRESSURES} {...said} />,{" "}
            <Choose name="gauge_class" label="Gauge class" options={CLASSES} {...said} />.
          </p>
        </>
      )}
      {body.npsh_by === "level" && (
        <>
          <div className={css.row}>
            <NamedFigure name="level" label="level over centre (lift: −)" />
            <NamedFigure name="loss" label="friction" />
            <NamedFigure name="level_u" label="both known within" />
            {body.surface === "closed" && <NamedFigure name="surface_pressure" label="pressure on it" />}
          </div>
          <p className="statesentence">
            The surface is <Choose name="surface" label="Surface of the supply" options={SURFACE} {...said} />
            .
          </p>
        </>
      )}
      <div className={css.row}>
        <NamedFigure name="flow" label="flow" />
        <NamedFigure name="npshr" label="NPSH required" />
        <NamedFigure name="npshr_flow" label="read at a flow of" />
        <NamedFigure name="altitude" label="altitude" />
      </div>
    </>
  );
}
/** Where the water stands to the pump: above its centre, or below it. */
function Sump({ view, by }: { view: View | null; by: string }) {
  const low = view?.flooded === false;
  const top = low ? 110 : 36;
  return (
    <svg viewBox="0 0 560 170" role="img" aria-label="Suction side" data-flooded={view?.flooded ?? ""}>
      <path className={css.centre} d="M120 90H540" />
      <path className={css.pipe} d="M20 14V150H170V14" />
      <rect className={css.water} x="21" y={top} width="148" height={149 - top} />
      <path className={css.pipe} d={low ? "M130 140V84H420M142 140V96H420" : "M170 84H420M170 96H420"} />
      <circle className={css.casing} cx="448" cy="90" r="34" />
      <circle className={css.eye} cx="448" cy="90" r="9" />
      {by === "gauge" && (
        <g>
          <circle className={css.dial} cx="330" cy="44" r="18" />
          <path className={css.thing} d="M330 62V84M330 44L320 36" />
        </g>
      )}
      {by === "level" && (
        <path className={css.dim} d={`M210 ${String(top)}V90M202 ${String(top)}H218M202 90H218`} />
      )}
      {view?.level && (
        <text className={css.marked} x="224" y={low ? 116 : 66}>
          {view.level.shown}
        </text>
      )}
      {view?.lowest && (
        <text className={css.axis} x="224" y="160">
          margin used up at {view.lowest.shown}
          {view.hottest && `, or at ${view.hottest.shown}`}
        </text>
      )}
    </svg>
  );
}
const PLACE = { left: 190, width: 60, top: 14, tall: 300 };
function Scale({ view }: { view: View }) {
  const y = (at: number) => PLACE.top + PLACE.tall * (1 - at);
  return (
    <svg viewBox="0 0 560 336" role="img" aria-label="Head at the eye: available and required" data-scale>
      <path className={css.frame} d={`M${String(PLACE.left)} ${String(PLACE.top)}V${String(y(0))}H540`} />
      {view.parts.map((p, i) => (
        <g key={p.id} data-part={p.id}>
          <rect
            className={p.id === "vapour" || p.id === "loss" ? css.preferred : css.water}
            x={PLACE.left + 8 + i * 44}
            width="38"
            y={y(p.high)}
            height={Math.max(2, y(p.low) - y(p.high))}
          />
          <text className={css.axis} x={PLACE.left + 27 + i * 44} y={y(0) + 16} textAnchor="middle">
            {String(i + 1)}
          </text>
        </g>
      ))}
      {view.parts.map((p, i) => (
        <text key={p.id} className={css.marked} x="0" y={30 + i * 22}>
          {String(i + 1)} {p.says} {p.size.shown}
        </text>
      ))}
      {view.available != null && (
        <g data-available>
          <path className={css.seen} d={`M${String(PLACE.left)} ${String(y(view.available))}H540`} />
          <text className={css.marked} x="540" y={y(view.available) - 6} textAnchor="end">
            available
          </text>
        </g>
      )}
      {view.required != null && (
        <g data-required>
          <path className={css.rated} d={`M${String(PLACE.left)} ${String(y(view.required))}H540`} />
          <text className={css.marked} x="540" y={y(view.required) + 16} textAnchor="end">
            required
          </text>
        </g>
      )}
      {view.wanted != null && (
        <path className={css.law} d={`M${String(PLACE.left)} ${String(y(view.wanted))}H540`} />
      )}
    </svg>
  );
}
function Around({ body, say, needed }: Said & { needed: string }) {
  return (
    <details
      className={css.more}
      open={["bell", "strainer_drop"].some((n) => Boolean((body as Record<string, unknown>)[n])) || undefined}
    >
      <summary>Strainer, and water over a bell</summary>
      <div className={css.row}>
        <NamedFigure name="strainer_drop" label="strainer, drop now" />
        <NamedFigure name="strainer_clean" label="drop when clean" />
        <Choose
          name="strainer_flow"
          label="Flow as when it was clean"
          options={FLOWS}
          body={body}
          say={say}
        />
      </div>
      <div className={css.row}>
        <NamedFigure name="bell" label="bell, diameter" />
        <NamedFigure name="submerged" label="water over it" />
        {needed && (
          <p className="mute">
            needed <strong className="mono">{needed}</strong>
          </p>
        )}
      </div>
    </details>
  );
}
