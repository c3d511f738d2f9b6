/** The set's own measures as dimension lines on its drawing: asked once, kept with the set. */
import { fieldId, NamedFigure, useTools } from "../../safety";
import { PackField, Pick, Placed, Tick, type Visit } from "./fields";
import { FEET, type Method } from "./logic";
import css from "./work.module.scss";

const METALS: [string, string][] = [
  ["", "choose"],
  ["cast_iron", "cast iron"],
  ["carbon_steel", "carbon steel"],
  ["stainless_304", "stainless 304"],
  ["stainless_316", "stainless 316"],
  ["aluminium", "aluminium"],
];
const FOOT_WORDS = {
  front_left: "front left",
  front_right: "front right",
  rear_left: "rear left",
  rear_right: "rear right",
};

export function SetSketch({ t, method, vans }: { t: Visit; method: Method; vans: string[] }) {
  const { hold } = useTools();
  const dials = method === "rim_face" || method === "reverse";
  const spacer = t.body.coupling === "spacer" || method === "reverse";
  return (
    <section className="setsketch" aria-label="Dimensions">
      <div className={css.sketch}>
        <svg viewBox="0 0 900 330" aria-hidden="true">
          <path className="centre" d="M20 130H880" />
          <path
            className="thing"
            d="M40 90H170L200 108V152L170 170H40zM200 122H262M200 138H262M262 84H288V176H262zM306 84H332V176H306zM332 122H400M332 138H400M400 74H740V186H400z"
          />
          <path className="thing" d="M70 170V238M170 170V238M440 186V238M700 186V238M40 238H780" />
          <path
            className="dim"
            d="M319 196V318M440 246V284M700 246V318M319 276H440M319 310H700M275 84V44M319 84V44M246 84V40M226 84H262M226 176H262M232 84V176M790 130V238M20 130V238M750 130H800M30 130H12"
          />
          <text x={105} y={134} textAnchor="middle">
            pump (fixed)
          </text>
          <text x={570} y={134} textAnchor="middle">
            motor
          </text>
        </svg>
        <Placed name="face_diameter" x={25} y={39} label="face diameter (where the gap is read)" />
        <Placed name="x_front" x={42} y={84} label="face to front feet" />
        <Placed name="x_rear" x={59} y={94} label="face to rear feet" />
        <Placed name="coupling_diameter" x={27} y={9} label="coupling diameter" />
        {spacer && <Placed name="plane_distance" x={42} y={9} />}
        <Placed name="pump_height" x={5} y={56} label="pump shaft height" />
        <Placed name="motor_height" x={90} y={56} label="motor shaft height" />
        <Placed name="pump_temperature" x={11} y={94} label="pump temperature, running" />
        <Placed name="motor_temperature" x={90} y={20} label="motor temperature, running" />
        <Placed name="speed" x={63} y={9} />
      </div>
      <p className="statesentence">
        Coupling:{" "}
        {
          <Pick
            t={t}
            name="coupling"
            label="Coupling type"
            options={[
              ["", "standard (no spacer)"],
              ["spacer", "with spacer"],
            ]}
          />
        }
        . Pump material: {<Pick t={t} name="pump_metal" label="Pump material" options={METALS} />}, motor
        material: {<Pick t={t} name="motor_metal" label="Motor material" options={METALS} />}.{" "}
        <Tick t={t} name="near_ambient">
          pump and motor stay near ambient (within 10 K, 18 °F) when running
        </Tick>
        {vans.length > 0 && (
          <>
            {" "}
            Shims from{" "}
            {
              <Pick
                t={t}
                name="van"
                label="Van"
                options={[["", vans[0] ?? ""], ...vans.slice(1).map((v): [string, string] => [v, v])]}
              />
            }
            .
          </>
        )}
      </p>
      <div className="setupfields">
        <NamedFigure name="cold" label="temperature now, cold" />
        <NamedFigure name="maker_offset" />
        <NamedFigure name="maker_angle" />
        <NamedFigure name="play" />
        <NamedFigure name="torque" />
        <span className="dimfield">
          <label htmlFor={fieldId("bolts")}>number of bolts</label>
          <input
            id={fieldId("bolts")}
            className="mono"
            inputMode="numeric"
            value={t.body.bolts ?? ""}
            onFocus={() => hold(null)}
            onChange={(e) =>
              t.change({ bolts: /^\d{1,2}$/.test(e.target.value) ? Number(e.target.value) : null })
            }
          />
        </span>
        {dials && <NamedFigure name="sag" />}
        {method === "flange" && (
          <>
            <NamedFigure name="support_distance" />
            <NamedFigure name="nut_pitch" />
            <NamedFigure name="maker_gap" />
          </>
        )}
      </div>
      <div className={css.packsfound} role="group" aria-label="Shims as found">
        {FEET.map((f) => (
          <span key={f} className="dimfield">
            <PackField t={t} foot={f} title={`shims, ${FOOT_WORDS[f]}`} />
          </span>
        ))}
      </div>
    </section>
  );
}
