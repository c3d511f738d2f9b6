/** What a schema says of its figures, and a figure in a form, under its name. */
import { useId } from "react";
import { FigureInput, type Entered } from "./FigureInput";
import css from "../base.module.scss";

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
  const { rule, value, problem } = props;
  const unit = value?.unit || props.preferred || rule.unit;
  return (
    <div className="field">
      <label htmlFor={id}>{rule.label}</label>
      <div className="withunit">
        <FigureInput
          id={id}
          label={rule.label}
          value={value}
          unit={unit}
          units={rule.units}
          unitClass=""
          symbols={props.symbols}
          refused={Boolean(problem)}
          onChange={props.onChange}
        />
        {rule.units.length === 1 && (
          <span className={`mute ${css.onlyunit}`}>{props.symbols[unit] ?? ""}</span>
        )}
      </div>
      {problem && (
        <span className="bad" role="alert">
          {problem}
        </span>
      )}
    </div>
  );
}
