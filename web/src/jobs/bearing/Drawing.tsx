/** A ring over its shaft: how wide it must be, how hot that is, how many seconds it stays so; and its grease. */
import type { EntryBody, Schemas } from "../../base";
import { useSheet } from "../../hydraulics";
import { Bench, Choose, NamedFigure, RecordEnd, Verdicts, type Given } from "../../safety";
import css from "../tools.module.scss";

type Body = EntryBody<"bearing">;
type View = Schemas["ShownBearingView"];
const FIGURES = ["bore", "outside", "width", "interference", "ambient", "reached"];
const KIND = [
  ["", "open or sealed?"],
  ["open", "open"],
  ["sealed", "sealed or greased"],
] as const;
const WAY = [
  ["", "how?"],
  ["induction", "induction heater"],
  ["oil", "oil bath"],
  ["plate", "hot plate"],
  ["press", "pressed cold"],
  ["flame", "flame"],
] as const;
const MAGNET = [
  ["", "demagnetised?"],
  ["yes", "demagnetised"],
  ["no", "not demagnetised"],
] as const;
const PURGED = [
  ["", "old grease?"],
  ["yes", "old grease purged"],
  ["no", "old grease left in"],
] as const;

export function Drawing({ given }: { given: Given }) {
  const { tools, body, say, view } = useSheet<"bearing", View>(given, { figures: FIGURES, kept: [] });
  const said = { body, say };
  return (
    <Bench tools={tools}>
      <p className="statesentence">
        An <Choose<Body> name="kind" label="Open, or sealed and greased" options={KIND} {...said} /> bearing,
        by <Choose<Body> name="way" label="Way" options={WAY} {...said} />
        {body.way === "induction" && (
          <>
            , <Choose<Body> name="demagnetised" label="Demagnetised" options={MAGNET} {...said} />
          </>
        )}
        ; <Choose<Body> name="purged" label="Old grease purged" options={PURGED} {...said} />.
      </p>
      <div className={css.bench}>
        <div>
          <div className={css.row}>
            <NamedFigure name="bore" label="bore" />
            <NamedFigure name="outside" label="outside" />
            <NamedFigure name="width" label="width" />
            <NamedFigure name="interference" label="interference, measured" />
            <NamedFigure name="ambient" label="ambient" />
            <NamedFigure name="reached" label="inner ring now" />
          </div>
          {view && <Heat view={view} />}
          {view?.grease && (
            <p className={css.said}>
              Grease: <strong className="mono">{view.grease.shown}</strong>
            </p>
          )}
          {view?.pressed && <p className={css.said}>Pressed cold, tube on the inner ring.</p>}
        </div>
        <div>
          <Verdicts />
          <RecordEnd />
        </div>
      </div>
    </Bench>
  );
}
/** The thermometer from ambient up, its ceiling as a floor above; the ring beside it, as wide as its heat makes it. */
function Heat({ view }: { view: View }) {
  const x = (at: number) => 40 + at * 520;
  const wider = (view.reached_at ?? 0) * 10;
  return (
    <svg className={css.canvas} viewBox="0 0 600 240" role="img" aria-label="Heat of the ring">
      <path className={css.thing} d="M200 130H400V190H200Z" />
      <path className={css.limit} d={ring(124 - wider, 84 - wider) + ring(196 + wider, 232 + wider / 4)} />
      <circle className={css.thing} cx="290" cy={104 - wider} r="13" />
      {view.slip && view.interference && (
        <text className={css.axis} x="420" y="164">
          {view.interference.shown} tight{view.measured ? "" : " at most"}, {view.slip.shown} slip
        </text>
      )}
      <path className={css.thin} d="M40 50H560" />
      {view.ceiling_at != null && (
        <>
          <path className={css.limit} d={`M${String(x(view.ceiling_at))} 38V62`} />
          <text className={css.axis} x={x(view.ceiling_at)} y="32" textAnchor="middle">
            ceiling {view.ceiling?.shown}
          </text>
        </>
      )}
      {view.temperature_at != null && (
        <>
          <circle className={css.hand} cx={x(view.temperature_at)} cy="50" r="7" />
          <text className={css.big} x={Math.min(x(view.temperature_at), 520)} y="78" textAnchor="middle">
            {view.temperature?.shown}
          </text>
        </>
      )}
      {view.reached_at != null && <circle className={css.full} cx={x(view.reached_at)} cy="50" r="4" />}
      {view.seconds && (
        <text className={css.axis} x="40" y="164">
          about {view.seconds.shown} to fit it
        </text>
      )}
    </svg>
  );
}
/** One half of the ring, above or below the shaft. */
function ring(from: number, to: number): string {
  return `M240 ${String(from)}H340V${String(to)}H240Z`;
}
