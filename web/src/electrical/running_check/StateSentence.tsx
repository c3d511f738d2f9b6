/** The state the readings were taken in, as a sentence with its values underlined to change. */
import { FigureInput } from "../../base";
import { fieldId, useTools } from "../../safety";
import type { Body } from "./sheet";

const READ_AT = {
  motor_leads: "the motor leads",
  starter: "the starter",
  drive_output: "the drive output",
  drive_input: "the drive input",
};
const VALVE = { open: "open", throttled: "throttled", shut: "shut" };

interface Props {
  body: Body;
  carried: string[];
  onDrive: boolean;
  tempUnit: string;
  tempSymbol: string;
  onTempUnit: () => void;
  onState: (change: Body) => void;
}
export function StateSentence({ body, carried, onDrive, tempUnit, tempSymbol, onTempUnit, onState }: Props) {
  const { hold, may } = useTools();
  const look = (name: string) => (carried.includes(name) ? "inline-select pencil" : "inline-select");
  const places = Object.entries(READ_AT).filter(([k]) => onDrive || !k.startsWith("drive"));
  const typed = (
    name: "valve_turns" | "valve_turns_full" | "speed" | "ambient",
    unit: string,
    label: string,
  ) => (
    <FigureInput
      id={fieldId(name)}
      label={label}
      className={`inline-input mono short ${carried.includes(name) ? "pencil" : ""}`}
      value={body[name]}
      unit={unit}
      digits
      readOnly={!may}
      onHold={() => hold(null)}
      onChange={(next) => onState({ [name]: next })}
    />
  );
  return (
    <p className="statesentence">
      Read at{" "}
      <select
        className={look("read_at")}
        aria-label="Read at"
        value={body.read_at ?? ""}
        onChange={(e) => onState({ read_at: (e.target.value || null) as Body["read_at"] })}
      >
        <option value="">choose</option>
        {places.map(([k, v]) => (
          <option key={k} value={k}>
            {v}
          </option>
        ))}
      </select>
      , valve{" "}
      <select
        className={look("valve")}
        aria-label="Valve"
        value={body.valve ?? ""}
        onChange={(e) => onState({ valve: (e.target.value || null) as Body["valve"] })}
      >
        <option value="">choose</option>
        {Object.entries(VALVE).map(([k, v]) => (
          <option key={k} value={k}>
            {v}
          </option>
        ))}
      </select>
      {body.valve === "throttled" && (
        <>
          {" "}
          {typed("valve_turns", "turns", "Valve turns open")} of{" "}
          {typed("valve_turns_full", "turns", "Valve turns, full travel")} turns
        </>
      )}
      {onDrive && <>, at {typed("speed", "Hz", "Drive frequency")} Hz</>},{" "}
      <select
        className={look("coupled")}
        aria-label="Coupled"
        value={body.coupled == null ? "" : String(body.coupled)}
        onChange={(e) => onState({ coupled: e.target.value === "" ? null : e.target.value === "true" })}
      >
        <option value="">coupled?</option>
        <option value="true">coupled</option>
        <option value="false">uncoupled</option>
      </select>
      , guard{" "}
      <select
        className={look("guard")}
        aria-label="Guard"
        value={body.guard ?? ""}
        onChange={(e) => onState({ guard: (e.target.value || null) as Body["guard"] })}
      >
        <option value="">choose</option>
        <option value="on">on</option>
        <option value="off">off</option>
      </select>
      , control{" "}
      <select
        className={look("control")}
        aria-label="Control"
        value={body.control ?? ""}
        onChange={(e) => onState({ control: (e.target.value || null) as Body["control"] })}
      >
        <option value="">choose</option>
        <option value="automatic">automatic</option>
        <option value="hand">in hand</option>
      </select>
      . Ambient {typed("ambient", tempUnit, "Ambient temperature")}{" "}
      <button
        type="button"
        className="linklike"
        aria-label={`Temperature unit: ${tempSymbol}`}
        onClick={onTempUnit}
      >
        {tempSymbol}
      </button>
      .{carried.length > 0 && <span className="mute"> Same as last time: change what is different.</span>}
    </p>
  );
}
