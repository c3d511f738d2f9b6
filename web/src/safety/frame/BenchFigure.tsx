/** A figure of a bench where it belongs on its drawing: typed, with its unit, refused in its place. */
import { FigureInput, type FigureInputProps } from "../../base";
import { fieldId, useTools } from "./tools";

/** Everything that the one field wants to know of a figure of this bench. */
export function useFigure(name: string): { props: FigureInputProps; refused: boolean } {
  const t = useTools();
  const rule = t.given.rules[name];
  const refused = Boolean(t.answer?.problems.some((p) => p.field === name));
  const { onCommit, onUnit } = t;
  return {
    refused,
    props: {
      id: fieldId(name),
      label: rule?.label ?? name,
      value: t.entered(name),
      unit: t.unitOf(name),
      units: rule?.units ?? [],
      symbols: t.symbols,
      refused,
      keypad: t.narrow,
      readOnly: !t.may,
      onChange: (next) => t.put(name, next),
      onHold: () => t.hold(name),
      onNext: () => t.next(name),
      ...(onCommit ? { onCommit: () => onCommit(name) } : {}),
      ...(onUnit ? { onUnit: (unit: string) => onUnit(name, unit) } : {}),
    },
  };
}

interface Props {
  name: string;
  /** Its own words for it, where the drawing has none. */
  label?: string;
  className?: string;
  /** Its unit stands elsewhere on the drawing. */
  bare?: boolean;
  /** What it was last time stands behind it. */
  last?: boolean;
}
export function BenchFigure({ name, label, className, bare = false, last = false }: Props) {
  const { props, refused } = useFigure(name);
  const { answer } = useTools();
  const ghost = answer?.ghosts.find((g) => g.field === name);
  return (
    <span className={refused ? "setupfield refused" : "setupfield"}>
      <FigureInput
        {...props}
        {...(label ? { label } : {})}
        {...(className ? { className } : {})}
        {...(bare ? { units: [] } : {})}
      />
      {last && ghost && <span className="ghost mono">{ghost.text}</span>}
    </span>
  );
}
/** Under its name, as on a dimension line; a unit that cannot be chosen stands with the name. */
export function NamedFigure({ name, label, bare }: { name: string; label?: string; bare?: boolean }) {
  const { given, symbols } = useTools();
  const { label: own = "", units = [] } = given.rules[name] ?? {};
  const words = label || within(own);
  const only = !bare && units.length === 1 ? (symbols[units[0]!] ?? "") : "";
  return (
    <span className="dimfield">
      <label htmlFor={fieldId(name)}>
        {words}
        {only && !words.includes(only) && `, ${only}`}
      </label>
      <BenchFigure name={name} {...(bare ? { bare } : {})} />
    </span>
  );
}
/** A label as it stands within a line: "Coupling gap" begins small, "DC bus" and "L1" stay as they are. */
const within = (label: string) =>
  /^[A-Z][a-z]/.test(label) ? label[0]!.toLowerCase() + label.slice(1) : label;
