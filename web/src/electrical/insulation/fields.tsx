/** What is typed on the insulation sheet: a figure where it belongs, a state in a sentence, a reading at its second. */
import type { Entered, EnteredRule, Shown } from "../../base";
import type { Body, SetupFigure } from "./logic";

export interface Pending {
  setup: Partial<Record<SetupFigure, Entered>>;
  ohms: Entered | null;
  second: string;
  /** When the first key of the reading in hand was pressed: its true second. */
  firstKey: string;
}
export const nothingPending: Pending = { setup: {}, ohms: null, second: "", firstKey: "" };

export interface FieldTools {
  rules: Record<string, EnteredRule>;
  units: Record<string, string>;
  symbols: Record<string, string>;
  keypad: boolean;
  may: boolean;
  answer: Shown | null;
  onFocus: (name: string) => void;
}
export const unitFor = (tools: FieldTools, name: string, held: Entered | null | undefined): string =>
  held?.unit || tools.units[tools.rules[name]?.dimension ?? ""] || tools.rules[name]?.unit || "";

/** One figure of the setup; put on the sheet when it is left or Enter is pressed. */
export function SetupField(p: {
  tools: FieldTools;
  name: SetupFigure;
  label: string;
  value: Entered | null | undefined;
  pending: Entered | undefined;
  width?: string;
  onType: (next: Entered) => void;
  onCommit: () => void;
}) {
  const { tools, name } = p;
  const held = p.pending ?? p.value;
  const unit = unitFor(tools, name, held);
  const problem = tools.answer?.problems.find((x) => x.field === name);
  return (
    <span className={problem ? "setupfield refused" : "setupfield"}>
      <label htmlFor={`f-${name}`}>{p.label}</label>
      <span className="withunit">
        <input
          id={`f-${name}`}
          className={p.pending ? "mono pencil" : "mono"}
          style={{ width: p.width ?? "5.2em" }}
          autoComplete="off"
          disabled={!tools.may}
          inputMode={tools.keypad ? "none" : "decimal"}
          aria-invalid={Boolean(problem)}
          value={held?.text ?? ""}
          onFocus={() => tools.onFocus(name)}
          onBlur={p.onCommit}
          onChange={(e) => p.onType({ text: e.target.value, unit })}
          onKeyDown={(e) => {
            if (e.key === "Enter" && !e.ctrlKey) {
              e.preventDefault();
              p.onCommit();
            }
          }}
        />
        <select
          className="inline-select unit"
          aria-label={`${p.label}, unit`}
          value={unit}
          disabled={!tools.may}
          onChange={(e) => {
            p.onType({ text: held?.text ?? "", unit: e.target.value });
          }}
          onBlur={p.onCommit}
        >
          {(tools.rules[name]?.units ?? []).map((u) => (
            <option key={u} value={u}>
              {tools.symbols[u] ?? u}
            </option>
          ))}
        </select>
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
      <option value="">{`say ${label.toLowerCase()}`}</option>
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
        ["apart", "apart, the others grounded"],
      ])}
      .
      {confirm(
        "arresters_off",
        "Surge arresters and capacitors off, sensors shorted and grounded, heaters off",
      )}
      {["drive", "soft_starter"].includes(control) &&
        confirm(
          "drive_off",
          `${control === "drive" ? "Drive" : "Soft starter"} disconnected at the motor's side`,
        )}
    </div>
  );
}
