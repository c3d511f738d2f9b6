/** Vibration, bearing by bearing: three directions at each of four bearings, typed where they are felt. */
import { FigureInput } from "../../base";
import {
  Bench,
  BenchFigure,
  fieldId,
  Note,
  NotToBeStarted,
  Photo,
  PutOnRecord,
  Reason,
  Sending,
  TakenUp,
  useBench,
  useFigure,
  useOneEntry,
  useTools,
  Verdicts,
  type Given,
} from "../../safety";
import css from "./drawing.module.scss";

type Word = "when" | "category" | "foundation";
const BEARINGS: [string, string, number][] = [
  ["pump_far", "far end", 8],
  ["pump_near", "coupling end", 35],
  ["motor_near", "coupling end", 58],
  ["motor_far", "far end", 92],
];
const WAYS: [string, string][] = [
  ["h", "side"],
  ["v", "up"],
  ["a", "along"],
];
const FIGURES = BEARINGS.flatMap(([bearing]) => WAYS.map(([way]) => `${bearing}_${way}`));
const OF_THE_SET = ["category", "foundation", "power"];
const WORDS: Record<Word, [string, [string, string][]]> = {
  when: [
    "When",
    [
      ["round", "A round"],
      ["before", "Before the work"],
      ["after", "After the work"],
    ],
  ],
  foundation: [
    "Foundation",
    [
      ["", "say what"],
      ["rigid", "rigid"],
      ["flexible", "flexible"],
    ],
  ],
  category: [
    "Pump’s category",
    [
      ["", "say which"],
      ["one", "I"],
      ["two", "II"],
    ],
  ],
};

export function Drawing({ given }: { given: Given }) {
  const sheet = useOneEntry<"vibration">(given, { figures: FIGURES, kept: OF_THE_SET });
  const tools = useBench(given, sheet.own);
  const word = (name: Word) => (
    <Choose name={name} value={sheet.body[name]} onChoose={(v) => sheet.change({ [name]: v || null })} />
  );
  const before = (
    <>
      {given.mode !== "pencil" && <TakenUp kept={sheet.kept} afresh={sheet.afresh} />}
      {given.mode === "new" && <NotToBeStarted set={given.set} />}
    </>
  );
  return (
    <Bench tools={tools} before={before}>
      <p className="statesentence">
        {word("when")}, the set on a {word("foundation")} foundation, the pump of category {word("category")},
        the motor of <Power /> {tools.symbols[tools.unitOf("power")] ?? tools.unitOf("power")}.
      </p>
      <div className={css.shaking}>
        <Shafts />
        <div className={css.bearings}>
          {BEARINGS.map(([bearing, words], i) => (
            <fieldset key={bearing}>
              <legend>
                {i < 2 ? "pump" : "motor"}, {words}
              </legend>
              {WAYS.map(([w, way]) => (
                <span key={w} className="dimfield">
                  <label htmlFor={fieldId(`${bearing}_${w}`)}>{way}</label>
                  <BenchFigure name={`${bearing}_${w}`} bare last />
                </span>
              ))}
            </fieldset>
          ))}
        </div>
        <p className="mute">
          Overall velocity, r.m.s., {tools.symbols[tools.unitOf("pump_near_h")] ?? "mm/s"}, 10 to 1000 Hz,
          running as it runs.
        </p>
      </div>
      <Verdicts />
      <Reason />
      <Note />
      <Photo />
      <div className="savebar">
        <PutOnRecord />
      </div>
      <Sending />
    </Bench>
  );
}
function Choose({
  name,
  value,
  onChoose,
}: {
  name: Word;
  value: string | null | undefined;
  onChoose: (value: string) => void;
}) {
  const [label, options] = WORDS[name];
  const { may } = useTools();
  return (
    <select
      className="inline-select"
      aria-label={label}
      disabled={!may}
      value={value ?? options[0]?.[0]}
      onChange={(e) => onChoose(e.target.value)}
    >
      {options.map(([v, w]) => (
        <option key={v} value={v}>
          {w}
        </option>
      ))}
    </select>
  );
}
function Power() {
  const { props } = useFigure("power");
  return (
    <span className={css.inline}>
      <FigureInput {...props} label="Motor’s power" units={[]} placeholder="plate" />
    </span>
  );
}
function Shafts() {
  return (
    <svg viewBox="0 0 900 150" aria-hidden="true">
      <path className="centre" d="M10 80H890" />
      <path
        className="thing"
        d="M60 40H290L320 60V100L290 120H60zM320 72H380M320 88H380M380 50H398V110H380zM410 50H428V110H410zM428 72H480M428 88H480M480 34H850V126H480z"
      />
      {BEARINGS.map(([b, , x]) => (
        <path key={b} className={css.bearing} d={`M${x * 9 - 12} 66H${x * 9 + 12}V94H${x * 9 - 12}z`} />
      ))}
      <text x={190} y={84} textAnchor="middle">
        pump
      </text>
      <text x={665} y={84} textAnchor="middle">
        motor
      </text>
    </svg>
  );
}
