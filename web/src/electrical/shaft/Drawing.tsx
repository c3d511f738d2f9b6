/** A shaft turned by hand: motor half, both joined, pump half, each with what it took, where it is felt. */
import { RadioGroup, Spot, type Schemas } from "../../base";
import {
  Bench,
  NamedFigure,
  NotToBeStarted,
  RecordEnd,
  useBench,
  useOneEntry,
  useTools,
  Verdicts,
  type Given,
} from "../../safety";
import css from "./drawing.module.scss";

type View = Schemas["ShownHandTurnedView"];
type Feel = "even" | "heavy" | "rough" | "locked";
type Part = "motor_half" | "coupled" | "pump_half";
const FEELS: Record<Feel, string> = { even: "free", heavy: "heavy", rough: "rough", locked: "locked" };
const TITLES: Record<Part, string> = {
  motor_half: "Motor half, uncoupled",
  coupled: "Coupled",
  pump_half: "Pump half, uncoupled",
};
const TOOLS: [string, string][] = [
  ["", "choose"],
  ["hand", "hand"],
  ["strap", "strap wrench"],
  ["slot", "slot in the shaft end"],
];

export function Drawing({ given }: { given: Given }) {
  const sheet = useOneEntry<"shaft">(given, { figures: ["turns", "gap"], kept: [] });
  const tools = useBench<View>(given, sheet.own);
  const view = tools.answer?.view;
  const halves = view?.halves ?? given.set.slots.includes("coupling");
  const parts: Part[] = halves ? ["motor_half", "coupled", "pump_half"] : ["coupled"];
  return (
    <Bench tools={tools} before={given.mode === "new" && <NotToBeStarted set={given.set} />}>
      <p className="statesentence">
        Turned with{" "}
        <select
          className="inline-select"
          aria-label="Turned with"
          value={sheet.body.tool ?? ""}
          onChange={(e) => sheet.change({ tool: (e.target.value || null) as typeof sheet.body.tool })}
        >
          {TOOLS.map(([k, words]) => (
            <option key={k} value={k}>
              {words}
            </option>
          ))}
        </select>
        .
      </p>
      <div className={css.bench}>
        <div className={css.stage}>
          <Train view={view} halves={halves} />
          <div className={css.turns}>
            <NamedFigure name="turns" />
            {halves && <NamedFigure name="gap" />}
          </div>
          <div className={halves ? css.parts : css.one}>
            {parts.map((p) => (
              <fieldset key={p} data-part={p}>
                <legend>{halves ? TITLES[p] : "Shaft"}</legend>
                <RadioGroup<Feel>
                  label={halves ? TITLES[p] : "Shaft"}
                  className={css.feels ?? ""}
                  options={Object.keys(FEELS) as Feel[]}
                  value={sheet.body[p] ?? null}
                  says={(f) => FEELS[f]}
                  disabled={!tools.may}
                  onChoose={(f) => sheet.change({ [p]: f })}
                />
              </fieldset>
            ))}
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
const HEAVY: Record<string, string | undefined> = { heavy: css.heavy, rough: css.rough, locked: css.locked };

/** The motor, both hubs with the gap between them, and the pump on one centre line; where it binds is heavy. */
function Train({ view, halves }: { view: View | undefined; halves: boolean }) {
  const { given } = useTools();
  const binds = view?.binds ?? "";
  const look = (feel: string | undefined, here: boolean) =>
    [css.ink, HEAVY[feel ?? ""], here ? css.binds : ""].filter(Boolean).join(" ");
  const motor = look(view?.motor || (halves ? "" : view?.coupled), binds === "motor" || binds === "both");
  const pump = look(view?.pump || (halves ? "" : view?.coupled), binds === "pump" || binds === "both");
  const joined = look(view?.coupled, binds === "coupling");
  return (
    <Spot className={css.train} at={{}}>
      <svg
        viewBox="0 0 600 190"
        role="img"
        aria-label={`Shaft of ${given.set.tag}`}
        data-binds={binds}
        className={css.drawn}
      >
        <path className={css.chain} d="M20 96H580" />
        <g className={motor}>
          <path d="M40 56H180V136H40Z" />
          <path d="M58 56V136M78 56V136M98 56V136M118 56V136M138 56V136M158 56V136" />
          <path d="M52 136v12h-14v6h44v-6h-14v-12M140 136v12h-14v6h44v-6h-14v-12" />
        </g>
        <g className={joined}>
          {halves ? (
            <path d="M180 90H262V102H180M262 70H288V122H262ZM312 70H338V122H312ZM338 90H420V102H338" />
          ) : (
            <path d="M180 90H420V102H180" />
          )}
        </g>
        <g className={pump}>
          <circle cx={470} cy={96} r={48} />
          <circle cx={470} cy={96} r={10} />
          <path d="M470 48V28H512V72" />
        </g>
        <g className={css.arrow}>
          <path d="M283 46a22 12 0 1 1 34 0" />
          <path d="M317 46l-2-9m2 9l-9-1" />
        </g>
        {halves && (
          <path
            className={css.dim}
            d="M288 128v16M312 128v16M274 138h14m-5-4l5 4l-5 4M326 138h-14m5-4l-5 4l5 4"
          />
        )}
      </svg>
    </Spot>
  );
}
