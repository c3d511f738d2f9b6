/** What is typed on the insulation sheet: a figure where it belongs, a state in a sentence, a reading at its second. */
import { FigureInput, type Entered } from "../../base";
import { useFigure } from "../../safety";
import type { Body, SetupFigure } from "./logic";

export interface Pending {
  setup: Partial<Record<SetupFigure, Entered>>;
  ohms: Entered | null;
  second: string;
  /** When the first key of the reading in hand was pressed: its true second. */
  firstKey: string;
}
export const nothingPending: Pending = { setup: {}, ohms: null, second: "", firstKey: "" };

/** One figure of the setup; put on the sheet when it is left or Enter is pressed. */
export function SetupField({ name, label, pencil }: { name: SetupFigure; label: string; pencil: boolean }) {
  const { props, refused } = useFigure(name);
  return (
    <span className={refused ? "setupfield refused" : "setupfield"}>
      <label htmlFor={props.id}>{label}</label>
      <span className="withunit">
        <FigureInput {...props} label={label} className={pencil ? "mono pencil" : "mono"} />
      </span>
    </span>
  );
}

/** How the test is made, as a sentence with its words underlined to change. */
export function SetupSentence({
  body,
  control,
  may,
  onSay,
}: {
  body: Body;
  control: string;
  may: boolean;
  onSay: (change: Body) => void;
}) {
  const pick = (name: "test_point" | "links" | "phases", label: string, options: [string, string][]) => (
    <select
      className={body[name] ? "inline-select" : "inline-select pencil"}
      aria-label={label}
      disabled={!may}
      value={body[name] ?? ""}
      onChange={(e) => onSay({ [name]: e.target.value || null })}
    >
      <option value="">{`choose`}</option>
      {options.map(([k, w]) => (
        <option key={k} value={k}>
          {w}
        </option>
      ))}
    </select>
  );
  const confirm = (name: "drive_off" | "arresters_off", words: string) => (
    <label className="confirm">
      <input
        type="checkbox"
        disabled={!may}
        checked={body[name] === true}
        onChange={(e) => onSay({ [name]: e.target.checked })}
      />{" "}
      {words}
    </label>
  );
  return (
    <div className="statesentence">
      Measured{" "}
      {pick("test_point", "Where", [
        ["motor", "at the motor"],
        ["starter", "from the starter, with the cable"],
      ])}
      , links{" "}
      {pick("links", "Links", [
        ["in", "in"],
        ["out", "out"],
      ])}
      , phases{" "}
      {pick("phases", "Phases", [
        ["together", "together"],
        ["apart", "separated, others grounded"],
      ])}
      .
      {confirm(
        "arresters_off",
        "Surge arresters and capacitors disconnected, sensors shorted and grounded, heaters off",
      )}
      {["drive", "soft_starter"].includes(control) &&
        confirm(
          "drive_off",
          `${control === "drive" ? "Drive" : "Soft starter"} output disconnected from the motor`,
        )}
    </div>
  );
}
