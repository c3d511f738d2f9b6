/** Rotor in its casing from the front and from the side: the gaps drawn against their limit, and what slips through. */
import type { EntryBody, Schemas } from "../../base";
import { useSheet } from "../../hydraulics";
import { Bench, Choose, NamedFigure, RecordEnd, Verdicts, type Given } from "../../safety";
import css from "../tools.module.scss";

type Body = EntryBody<"rotor">;
type View = Schemas["ShownRotorView"];
const FOUR = ["1", "2", "3", "4"];
const KEPT = ["radial_new", "radial_most", "end_new", "end_most"];
const READ = [
  ...FOUR.flatMap((n) => [`bore_${n}`, `rotor_${n}`]),
  "width_1",
  "width_2",
  "depth_1",
  "depth_2",
  "gasket",
  "groove",
];
const PLATE = [
  ["", "its fate?"],
  ["back", "goes back"],
  ["lapped", "lapped"],
  ["renewed", "renewed"],
] as const;

export function Drawing({ given }: { given: Given }) {
  const { tools, body, say, view } = useSheet<"rotor", View>(given, {
    figures: [...READ, ...KEPT],
    kept: KEPT,
  });
  return (
    <Bench tools={tools}>
      <p className="statesentence">
        Rotor, casing and end plate are judged as one pair; the plate{" "}
        <Choose<Body> name="plate" label="Fate of the plate" options={PLATE} body={body} say={say} />.
        {view?.usual_low && view.usual_high && (
          <span className="mute">
            {" "}
            A usual new one has {view.usual_low.shown} to {view.usual_high.shown} a side.
          </span>
        )}
      </p>
      <div className={css.bench}>
        <div>
          {view && <Pair view={view} />}
          {FOUR.map((n) => (
            <div key={n} className={css.row}>
              <NamedFigure name={`bore_${n}`} label={`casing bore ${n}`} />
              <NamedFigure name={`rotor_${n}`} label={`rotor ${n}`} />
            </div>
          ))}
          <div className={css.row}>
            <NamedFigure name="width_1" label="rotor width" />
            <NamedFigure name="width_2" label="width again" />
            <NamedFigure name="depth_1" label="casing depth" />
            <NamedFigure name="depth_2" label="depth again" />
            <NamedFigure name="gasket" label="gasket or shim" />
            <NamedFigure name="groove" label="deepest groove" />
          </div>
        </div>
        <div>
          <div className={css.row}>
            <NamedFigure name="radial_most" label="radial limit" />
            <NamedFigure name="radial_new" label="radial, new" />
            <NamedFigure name="end_most" label="end limit" />
            <NamedFigure name="end_new" label="end, new" />
          </div>
          {(view?.slip_radial ?? view?.slip_end) && (
            <p className={css.said} data-slip>
              Slips {view?.slip_radial && <strong className="mono">× {view.slip_radial.shown}</strong>}
              {view?.slip_radial && " round its edge"}
              {view?.slip_end && (
                <>
                  {view.slip_radial && ", "}
                  <strong className="mono">× {view.slip_end.shown}</strong> at its ends
                </>
              )}
              : the vacuum it no longer makes.
            </p>
          )}
          <Verdicts />
          <RecordEnd />
        </div>
      </div>
    </Bench>
  );
}
function Pair({ view }: { view: View }) {
  const gap = 4 + 16 * Math.min(view.radial_at ?? 0.3, 1.5);
  const end = 4 + 16 * Math.min(view.end_at ?? 0.3, 1.5);
  const wrong = (at: number | null) => (at != null && at > 1 ? css.wrong : css.water);
  return (
    <svg className={css.canvas} viewBox="0 0 600 230" role="img" aria-label="Rotor in its casing">
      <circle className={css.limit} cx="150" cy="110" r="98" />
      <circle className={css.thing} cx="150" cy="110" r={98 - gap} />
      <path
        className={css.thing}
        d={`M150 ${String(12 + gap)}V${String(208 - gap)}M${String(52 + gap)} 110H${String(248 - gap)}`}
      />
      <path className={wrong(view.radial_at)} d={`M248 110H${String(248 - gap)}`} />
      {view.radial && (
        <text className={css.big} x="150" y="228" textAnchor="middle">
          {view.radial.shown}
        </text>
      )}
      <path className={css.limit} d="M340 30H540M340 190H540M340 30V190M540 30V190" />
      <path
        className={css.thing}
        d={`M${String(340 + end / 2)} 44H${String(540 - end / 2)}V176H${String(340 + end / 2)}Z`}
      />
      <path className={wrong(view.end_at)} d={`M540 110H${String(540 - end)}`} />
      {view.end && (
        <text className={css.big} x="440" y="228" textAnchor="middle">
          {view.end.shown}
        </text>
      )}
    </svg>
  );
}
