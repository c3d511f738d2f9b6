/** A typed figure with its unit, the unit switchable in place. */
import { useId } from "react";
import type { Schemas } from "../client";

export type Entered = Schemas["Entered"];
export interface EnteredRule {
  label: string;
  dimension: string;
  units: string[];
  unit: string;
  help: string;
}
interface JsonSchema {
  properties?: Record<string, { "x-entered"?: EnteredRule; title?: string }>;
  $defs?: Record<string, JsonSchema>;
}
/** The typed-figure fields of a schema the server sent. */
export function enteredFields(schema: unknown): Record<string, EnteredRule> {
  const { $defs = {}, ...own } = schema as JsonSchema;
  // An entry of several kinds is a choice of models: each field stands in one of them.
  const models = [...Object.values($defs), own];
  return Object.fromEntries(
    models
      .flatMap((m) => Object.entries(m.properties ?? {}))
      .flatMap(([name, p]) => (p["x-entered"] ? [[name, p["x-entered"]]] : [])),
  );
}

export function FigureField(props: {
  rule: EnteredRule;
  value: Entered | null | undefined;
  preferred: string | undefined;
  symbols: Record<string, string>;
  problem?: string;
  onChange: (next: Entered | null) => void;
}) {
  const id = useId();
  const unit = props.value?.unit || props.preferred || props.rule.unit;
  return (
    <div className="field">
      <label htmlFor={id}>{props.rule.label}</label>
      <div className="withunit">
        <input
          id={id}
          className="mono"
          inputMode="decimal"
          autoComplete="off"
          value={props.value?.text ?? ""}
          aria-invalid={Boolean(props.problem)}
          onChange={(e) => props.onChange(e.target.value ? { text: e.target.value, unit } : null)}
        />
        {props.rule.units.length > 1 ? (
          <select
            aria-label={`${props.rule.label}, unit`}
            value={unit}
            onChange={(e) => props.onChange({ text: props.value?.text ?? "", unit: e.target.value })}
          >
            {props.rule.units.map((u) => (
              <option key={u} value={u}>
                {props.symbols[u] ?? u}
              </option>
            ))}
          </select>
        ) : (
          <span className="mute" style={{ alignSelf: "center", padding: "0 8px" }}>
            {props.symbols[unit] ?? ""}
          </span>
        )}
      </div>
      {props.problem && (
        <span className="bad" role="alert">
          {props.problem}
        </span>
      )}
    </div>
  );
}
