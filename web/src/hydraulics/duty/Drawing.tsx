/** Where a pump runs: two gauges at their heights, the curve with its point, the ways to know the flow, the what-if. */
import type { EntryBody, Schemas } from "../../base";
import {
  Bench,
  Choose,
  Inline,
  NamedFigure,
  RecordEnd,
  Tick,
  Verdicts,
  type Given,
  type Tools,
} from "../../safety";
import { Gauges } from "../Gauges";
import { Legs } from "../Legs";
import { LiquidWords } from "../Liquid";
import { FLOORS, FLUID_KEPT, GAUGE_KEPT, LEG_KEPT, LEGS, OTHERS, VALVES } from "../options";
import { Options } from "../Options";
import { Paper } from "../Paper";
import { useSheet } from "../useSheet";
import { Survey } from "./Survey";
import css from "../water.module.scss";

type Body = EntryBody<"duty">;
type View = Schemas["ShownDutyView"];
const STATES = [
  ["", "running?"],
  ["running", "running"],
  ["standing", "standing"],
] as const;
const GAUGES = ["suction", "discharge"];
const WAYS = [
  "meter",
  "exchanger_drop",
  "exchanger_drop_ref",
  "exchanger_flow_ref",
  "heat",
  "rise",
  "valve_kv",
  "valve_drop",
  "drawdown",
];
const NEEDS = ["need", "floor", "static", "hours", "price"];
const KEPT = [
  ...FLUID_KEPT,
  ...GAUGE_KEPT,
  ...LEG_KEPT,
  ...NEEDS,
  "floor_of",
  "closed",
  "others",
  "turns_full",
  "exchanger_drop_ref",
  "exchanger_flow_ref",
  "valve_kv",
];
interface Said {
  body: Body;
  say: (more: Partial<Body>) => void;
}
export function Drawing({ given }: { given: Given }) {
  const { tools, body, say, row, view } = useSheet<"duty", View>(given, {
    figures: [...GAUGES, ...LEGS],
    order: [...GAUGES, "temperature", ...LEGS, "meter"],
    kept: KEPT,
    also: (b) => Boolean((b.survey as unknown[] | undefined)?.length),
    lists: { survey: ["suction", "discharge", ...LEGS, "turns"] },
  });
  const said = { body, say };
  return (
    <Bench tools={tools}>
      <Sentence {...said} />
      <div className={css.bench}>
        <div>
          {tools.narrow && <Answer {...said} tools={tools} view={view} />}
          <Drawn view={view} {...said} />
          <Ways view={view} {...said} />
          <Survey view={view} body={body} row={row} />
        </div>
        <div>
          {!tools.narrow && <Answer {...said} tools={tools} view={view} />}
          <Legs />
          <Needs {...said} />
          {view && (
            <Options options={view.options} says={view.says}>
              {body.try_at != null && (
                <button type="button" className="btn-line" onClick={() => say({ try_at: null })}>
                  Clear
                </button>
              )}
            </Options>
          )}
          <RecordEnd />
        </div>
      </div>
    </Bench>
  );
}
/** Gauge, gauge, answer: in sight of one another. */
function Answer({ body, say, tools, view }: Said & { tools: Tools<View>; view: View | null }) {
  return (
    <>
      <Gauges body={body} say={say} />
      <Figures values={tools.answer?.values ?? {}} parts={view?.parts ?? []} />
      <Verdicts />
    </>
  );
}
function Sentence({ body, say }: Said) {
  const said = { body, say };
  return (
    <p className="statesentence">
      Pump <Choose name="state" label="Pump" options={STATES} {...said} />, discharge valve{" "}
      <Choose name="valve" label="Discharge valve" options={VALVES} {...said} />
      {body.valve === "throttled" && (
        <>
          {" "}
          <Inline name="turns" /> of <Inline name="turns_full" />
        </>
      )}
      , <Choose name="others" label="On its header" options={OTHERS} {...said} /> on its header,{" "}
      <LiquidWords {...said} />. <Tick name="settled" label="Settled for 2 min at this valve" {...said} />
    </p>
  );
}
function Drawn({ view, body, say }: Said & { view: View | null }) {
  if (!view?.curve) return <p className="mute">No curve yet: enter it on the nameplate of the wet end.</p>;
  const tries = view.options.length > 0;
  return (
    <>
      <Paper
        curve={view.curve}
        label="Curve of the pump, where it runs"
        tryAt={body.try_at ?? null}
        {...(tries ? { onTry: (at: number | null) => say({ try_at: at }) } : {})}
      />
      {tries && (
        <p className="mute">
          Drag along the paper, or use the arrow keys: what a valve, a speed or a trim would leave.
        </p>
      )}
    </>
  );
}
function Figures({
  values,
  parts,
}: {
  values: Record<string, { shown: string; error: string }>;
  parts: readonly { shown: string }[];
}) {
  const rows: [string, string][] = [
    ["head", "head"],
    ["flow", "flow"],
    ["shaft", "shaft power"],
    ["efficiency", "pump efficiency"],
    ["wire_to_water", "wire to water"],
    ["specific_energy", "energy per volume"],
  ];
  const there = rows.filter(([n]) => values[n]);
  if (!there.length) return null;
  return (
    <div className={css.figures} aria-label="Calculated values">
      {there.map(([name, label]) => (
        <div key={name}>
          <span className="lab">{label}</span>
          <strong className="mono" data-value={name}>
            {values[name]?.shown} <span className={css.off}>{values[name]?.error}</span>
          </strong>
          {name === "head" && parts.length === 3 && (
            <span className="mute mono">{parts.map((p) => p.shown).join(" + ")}</span>
          )}
        </div>
      ))}
    </div>
  );
}
function Ways({ view, body, say }: Said & { view: View | null }) {
  const said = { body, say };
  const any = WAYS.some((n) => Boolean((body as Record<string, unknown>)[n]));
  return (
    <section className={css.part} aria-label="Flow">
      <ul className={css.ways} data-ways>
        {view?.ways.map((w) => (
          <li key={w.id} data-way={w.id} className={w.apart ? css.apart : ""}>
            <span>{w.says}</span>
            <strong className="mono">
              {w.flow.shown} <span className={css.off}>{w.flow.error}</span>
            </strong>
          </li>
        ))}
      </ul>
      {view?.refused.map((r) => (
        <p key={r} className="mute" data-refused>
          {r}
        </p>
      ))}
      <details className={css.more} open={any || undefined}>
        <summary>Another way to know the flow</summary>
        <div className={css.row}>
          <NamedFigure name="meter" label="clamp-on meter" />
          <NamedFigure name="drawdown" label="by drawdown" />
          <NamedFigure name="heat" label="heat carried" />
          <NamedFigure name="rise" label="temperature difference" />
          <NamedFigure name="exchanger_drop" label="exchanger, drop now" />
          <NamedFigure name="exchanger_drop_ref" label="drop on its sheet" />
          <NamedFigure name="exchanger_flow_ref" label="flow on its sheet" />
          <NamedFigure name="valve_drop" label="balancing valve, drop" />
          <NamedFigure name="valve_kv" label="its Kv" />
        </div>
        <p className={css.ticks}>
          <Tick name="meter_straight" label="Ten bores of straight pipe, full" {...said} />
          <Tick name="meter_air" label="Air in the water" {...said} />
          <Tick name="heat_steady" label="Steady for 10 min" {...said} />
          <Tick name="exchanger_clean" label="Exchanger clean" {...said} />
        </p>
      </details>
    </section>
  );
}
function Needs({ body, say }: Said) {
  const said = { body, say };
  return (
    <details className={css.more} open={NEEDS.some((n) => Boolean((body as Record<string, unknown>)[n]))}>
      <summary>What the service needs, and the pipes</summary>
      <div className={css.row}>
        <NamedFigure name="need" label="flow needed" />
        <NamedFigure name="floor" label="least flow allowed" />
        <NamedFigure name="static" label="static head" />
        <NamedFigure name="rpm" label="speed, measured" />
        <NamedFigure name="hz" label="drive frequency" />
        <NamedFigure name="hours" label="hours a year" />
        <NamedFigure name="price" label="price of a kWh" />
      </div>
      <p className="statesentence">
        The least flow is needed by <Choose name="floor_of" label="Needed by" options={FLOORS} {...said} />.{" "}
        <Tick name="closed" label="Closed loop: no static head" {...said} />
      </p>
    </details>
  );
}
