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
  ["pump_far", "NDE", 8],
  ["pump_near", "DE", 35],
  ["motor_near", "DE", 58],
  ["motor_far", "NDE", 92],
];
const WAYS: [string, string][] = [
  ["h", "H"],
  ["v", "V"],
  ["a", "A"],
];
const FIGURES = BEARINGS.flatMap(([bearing]) => WAYS.map(([way]) => `${bearing}_${way}`));
const OF_THE_SET = ["category", "foundation", "power"];
const WORDS: Record<Word, [string, [string, string][]]> = {
  when: [
    "When",
    [
      ["round", "Routine check"],
      ["before", "Before work"],
      ["after", "After work"],
    ],
  ],
  foundation: [
    "Foundation",
    [
      ["", "choose"],
      ["rigid", "rigid"],
      ["flexible", "flexible"],
    ],
  ],
  category: [
    "Pump category",
    [
      ["", "choose"],
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
        {word("when")}, foundation {word("foundation")}, pump category {word("category")}, motor power{" "}
        <Power /> {tools.symbols[tools.unitOf("power")] ?? tools.unitOf("power")}.
      </p>
      <div className={css.shaking}>
        <Shafts />
        <div className={css.bearings}>
          {BEARINGS.map(([bearing, words], i) => (
            <fieldset key={bearing}>
              <legend>
                {i < 2 ? "pump" : "motor"} {words}
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
          DE drive end, NDE non-drive end; H horizontal, V vertical, A axial. Overall velocity, RMS,{" "}
          {tools.symbols[tools.unitOf("pump_near_h")] ?? "mm/s"}, 10 to 1000 Hz, at normal running speed and
          load.
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
      <FigureInput {...props} label="Motor power" units={[]} placeholder="nameplate" />
    </span>
  );
}
function Shafts() {
  return (
    <svg viewBox="0 0 900 156" aria-hidden="true">
      <path className="centre" d="M10 80H890" />
      <path
        className="thing"
        d="M60 40H290L320 60V100L290 120H60zM320 72H380M320 88H380M380 50H398V110H380zM410 50H428V110H410zM428 72H480M428 88H480M480 34H850V126H480z"
      />
      {BEARINGS.map(([b, , x]) => (
        <path key={b} className={css.bearing} d={`M${x * 9 - 12} 66H${x * 9 + 12}V94H${x * 9 - 12}z`} />
      ))}
      {BEARINGS.map(([b, , x], i) => (
        <path key={b} className={css.leader} d={`M${x * 9} 94V134L${112.5 + i * 225} 156`} />
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
