/** A seal in the hand: the shaft end with its flat, the seal in its box, the ring in its groove. */
import type { EntryBody, Schemas } from "../../base";
import { useSheet } from "../../hydraulics";
import { Bench, Choose, NamedFigure, RecordEnd, Verdicts, type Given } from "../../safety";
import css from "../tools.module.scss";

type Body = EntryBody<"seal">;
type View = Schemas["ShownSealView"];
const FIGURES = [
  "stand_out",
  "flat",
  "length",
  "length_maker",
  "box",
  "set",
  "bands",
  "section",
  "groove",
  "temperature",
];
const SAID = ["liquid", "grit", "rubber", "lubricant", "faces"];
const LIQUID = [
  ["", "liquid?"],
  ["water", "water"],
  ["glycol", "glycol"],
  ["oil", "oil"],
  ["acid", "acid"],
  ["steam", "steam"],
] as const;
const GRIT = [
  ["", "grit?"],
  ["no", "no grit"],
  ["yes", "grit in it"],
] as const;
const RUBBER = [
  ["", "rubber?"],
  ["epdm", "EPDM"],
  ["nbr", "NBR"],
  ["fkm", "FKM"],
] as const;
const LUBRICANT = [
  ["", "on the rubber?"],
  ["soapy", "soapy water"],
  ["kit", "kit fluid"],
  ["petroleum", "petroleum grease or oil"],
  ["none", "nothing"],
] as const;
const FACES = [
  ["", "faces?"],
  ["carbon_ceramic", "carbon on ceramic"],
  ["carbon_sic", "carbon on silicon carbide"],
  ["sic_sic", "silicon carbide twice"],
] as const;

export function Drawing({ given }: { given: Given }) {
  const { tools, body, say, view } = useSheet<"seal", View>(given, {
    figures: FIGURES,
    kept: [],
    also: (b) => SAID.some((n) => Boolean(b[n])),
  });
  const said = { body, say };
  return (
    <Bench tools={tools}>
      <p className="statesentence">
        In <Choose<Body> name="liquid" label="Liquid" options={LIQUID} {...said} />,{" "}
        <Choose<Body> name="grit" label="Grit in it" options={GRIT} {...said} />;{" "}
        <Choose<Body> name="rubber" label="Rubber" options={RUBBER} {...said} /> with{" "}
        <Choose<Body> name="lubricant" label="On the rubber" options={LUBRICANT} {...said} />;{" "}
        <Choose<Body> name="faces" label="Faces" options={FACES} {...said} />.
      </p>
      <div className={css.bench}>
        <div>
          {view && <Section view={view} />}
          <div className={css.row}>
            <NamedFigure name="stand_out" label="stand-out" />
            <NamedFigure name="flat" label="flat" />
            <NamedFigure name="temperature" label="liquid" />
            <NamedFigure name="bands" label="helium bands" />
          </div>
          <div className={css.row}>
            <NamedFigure name="length" label="working length" />
            <NamedFigure name="length_maker" label="manufacturer's" />
            <NamedFigure name="box" label="or box depth" />
            <NamedFigure name="set" label="and set" />
          </div>
          <div className={css.row}>
            <NamedFigure name="section" label="O-ring section" />
            <NamedFigure name="groove" label="groove depth" />
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
function Section({ view }: { view: View }) {
  const flat = 120 + 300 * (1 - Math.min(view.flat_at ?? 0, 1.2));
  const squeezed = view.squeezed_at ?? 1;
  return (
    <svg
      className={css.canvas}
      viewBox="0 0 600 250"
      role="img"
      aria-label="Shaft end, seal and ring in section"
    >
      <path className={css.thin} d="M20 70H580M20 190H580" />
      <path className={css.thing} d="M20 45H420V95H20M104 20V120M112 20V120" />
      {view.flat_at != null && <path className={css.limit} d={`M420 55H${String(flat)}V45`} />}
      {view.left && (
        <>
          <path className={css.water} d={`M112 112H${String(flat)}M112 106V118M${String(flat)} 106V118`} />
          <text className={css.big} x="300" y="136" textAnchor="middle">
            {view.left.shown} left
          </text>
        </>
      )}
      <path className={css.thing} d="M60 165H200V215H60Z M60 180H120V200H60" />
      {view.wanted && (
        <>
          <path className={css.thin} d="M120 222V232M200 222V232M120 227H200" />
          <text className={css.axis} x="160" y="246" textAnchor="middle">
            wanted {view.wanted.shown}
          </text>
          {view.measured_at != null && (
            <path className={css.water} d={`M${String(120 + 80 * view.measured_at)} 160V220`} />
          )}
        </>
      )}
      <path className={css.thing} d="M360 165H420V215H500V165H560" />
      <ellipse
        className={css.water}
        cx="460"
        cy={215 - 22 * squeezed}
        rx={22 + 14 * (1 - squeezed)}
        ry={22 * squeezed}
      />
      {view.squeeze && (
        <text className={css.axis} x="460" y="246" textAnchor="middle">
          squeezed {view.squeeze.shown}
        </text>
      )}
      {view.flat_um && (
        <text className={css.axis} x="260" y="190">
          faces flat to {view.flat_um.shown}
        </text>
      )}
    </svg>
  );
}
