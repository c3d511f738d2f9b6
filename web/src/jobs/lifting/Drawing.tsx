/** The load on its hook: legs at their angle, each link with what it carries of its rating, and the plan before it. */
import type { EntryBody, Schemas } from "../../base";
import { useSheet } from "../../hydraulics";
import { Bench, Choose, NamedFigure, RecordEnd, Verdicts, WordsField, type Given } from "../../safety";
import css from "../tools.module.scss";

type Body = EntryBody<"lifting">;
type View = Schemas["ShownLiftingView"];
const FIGURES = [
  "weight",
  "rigging",
  "water",
  "hoist",
  "sling",
  "shackle",
  "eye",
  "angle",
  "reach",
  "reach_rated",
  "wind",
];
const LEGS = [
  ["", "legs?"],
  ["1", "one leg"],
  ["2", "two legs"],
  ["3", "three legs"],
  ["4", "four legs"],
] as const;
const EYE = [
  ["", "eye?"],
  ["shouldered", "a shouldered eye"],
  ["plain", "a plain eye"],
  ["bail", "its bail"],
  ["motor", "the motor's eye"],
] as const;
const WHOLE = [
  ["", "what is lifted?"],
  ["yes", "the whole set"],
  ["no", "the motor or pump alone"],
] as const;
const RATED = [
  ["", "rated and in date?"],
  ["yes", "all rated, in date"],
  ["no", "not all rated"],
] as const;
const TRIAL = [
  ["", "trial lift?"],
  ["level", "level, no slip"],
  ["slipped", "slipped or tilted"],
] as const;
const OUT = [
  ["", "inside or outside?"],
  ["no", "inside"],
  ["yes", "outside or on a roof"],
] as const;
const AREA = [
  ["", "area below?"],
  ["yes", "area below closed"],
  ["no", "area below open"],
] as const;

export function Drawing({ given }: { given: Given }) {
  const { tools, body, say, view } = useSheet<"lifting", View>(given, {
    figures: FIGURES,
    kept: ["weight", "hoist", "reach_rated"],
    also: (b) => Boolean(b.name_1 || b.route),
  });
  const said = { body, say };
  return (
    <Bench tools={tools}>
      <p className="statesentence">
        <Choose<Body> name="whole_set" label="What is lifted" options={WHOLE} {...said} /> on{" "}
        <Choose<Body> name="eye_kind" label="Eye" options={EYE} {...said} /> by{" "}
        <Choose<Body> name="legs" label="Sling legs" options={LEGS} {...said} />;{" "}
        <Choose<Body> name="rated" label="All of it rated and in date" options={RATED} {...said} />; 50 mm up
        for 10 s: <Choose<Body> name="trial" label="Trial lift 50 mm, 10 s" options={TRIAL} {...said} />.
      </p>
      <div className={css.bench}>
        <div>
          {view && <Hook view={view} />}
          <div className={css.row}>
            <NamedFigure name="weight" label="weight" />
            <NamedFigure name="rigging" label="rigging" />
            <NamedFigure name="water" label="water in it" />
            <NamedFigure name="angle" label="leg angle" />
          </div>
          <div className={css.row}>
            <NamedFigure name="hoist" label="hoist" />
            <NamedFigure name="sling" label="sling, a leg" />
            <NamedFigure name="shackle" label="shackle" />
            <NamedFigure name="eye" label="eye" />
            <NamedFigure name="reach" label="hook from post" />
            <NamedFigure name="reach_rated" label="reach of its rating" />
          </div>
        </div>
        <div>
          <p className="statesentence">
            <Choose<Body> name="area" label="Area below closed" options={AREA} {...said} />,{" "}
            <Choose<Body> name="outside" label="Outside or on a roof" options={OUT} {...said} />
          </p>
          <div className={css.row}>
            <WordsField<Body> name="name_1" label="Lift led by" most={80} {...said} />
            <WordsField<Body> name="name_2" label="With" most={80} {...said} />
            <NamedFigure name="wind" label="wind at the hook" />
          </div>
          <WordsField<Body> name="route" label="Route and obstacles" most={300} {...said} />
          <Verdicts />
          <RecordEnd />
        </div>
      </div>
    </Bench>
  );
}
function Hook({ view }: { view: View }) {
  const a = ((view.angle ?? 60) * Math.PI) / 180;
  const spread = view.legs > 1 ? Math.min(150, 110 / Math.tan(a)) : 0;
  const worst = view.links.find((l) => l.weakest);
  return (
    <svg className={css.canvas} viewBox="0 0 600 300" role="img" aria-label="Load on its hook">
      <path className={css.thing} d="M200 10V40M188 40a12 12 0 1 0 24 0" />
      <path
        className={css.limit}
        d={
          view.legs > 1
            ? `M200 54L${String(200 - spread)} 164M200 54L${String(200 + spread)} 164`
            : "M200 54V164"
        }
      />
      <path className={css.thing} d={load(Math.max(spread, 60))} />
      <text className={css.big} x="200" y="210" textAnchor="middle">
        {view.load?.shown ?? "?"}
      </text>
      {view.leg && view.legs > 1 && (
        <text className={css.axis} x="200" y="262" textAnchor="middle">
          {view.leg.shown} in a leg
        </text>
      )}
      {view.links.map((l, i) => {
        const share = l.at;
        const y = 40 + i * 56;
        return (
          <g key={l.name} data-link={l.name}>
            <text className={css.axis} x="390" y={y}>
              {l.name}: {l.carries.shown} of {l.rated.shown}
            </text>
            <path className={css.thin} d={`M390 ${String(y + 14)}H560`} />
            <path
              className={l.name === worst?.name ? css.wrong : css.limit}
              d={`M390 ${String(y + 14)}H${String(390 + 142 * share)}`}
            />
            <path className={css.thing} d={`M532 ${String(y + 7)}v14`} />
          </g>
        );
      })}
      {view.wants.length > 0 && (
        <text className={css.axis} x="390" y="286">
          no lift without: {view.wants.join(", ")}
        </text>
      )}
    </svg>
  );
}
/** What hangs there, as wide as its slings stand apart. */
function load(half: number): string {
  return `M${String(190 - half)} 164H${String(210 + half)}V240H${String(190 - half)}Z`;
}
