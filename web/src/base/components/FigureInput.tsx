/** The one field for figures: takes what a meter shows ("12.5", ">10 G", "OL", "flush"), with its unit in place. */
import type { Schemas } from "../client";

export type Entered = Schemas["Entered"];
export interface FigureInputProps {
  id: string;
  /** What it is called to who cannot see where it stands. */
  label: string;
  value: Entered | null | undefined;
  unit: string;
  /** One unit alone is not offered for choice. */
  units?: string[];
  symbols?: Record<string, string>;
  refused?: boolean;
  /** Our own keypad is docked: the device's own stays away. */
  keypad?: boolean;
  /** Digits alone are typed into it, where our keypad does not come up. */
  digits?: boolean;
  readOnly?: boolean;
  placeholder?: string;
  className?: string;
  unitClass?: string;
  describedBy?: string;
  onChange: (next: Entered | null) => void;
  /** Where a unit counts for more than this one figure. */
  onUnit?: (unit: string) => void;
  onHold?: () => void;
  /** Enter was pressed. */
  onNext?: () => void;
  /** It was left, or Enter was pressed. */
  onCommit?: () => void;
}

export function FigureInput(p: FigureInputProps) {
  const text = p.value?.text ?? "";
  const choice = (p.units?.length ?? 0) > 1 && !p.readOnly;
  return (
    <>
      <input
        id={p.id}
        className={p.className ?? "mono"}
        aria-label={p.label}
        aria-invalid={p.refused ?? false}
        autoComplete="off"
        enterKeyHint="next"
        inputMode={p.keypad ? "none" : p.digits ? "decimal" : "text"}
        readOnly={p.readOnly}
        value={text}
        {...(p.placeholder ? { placeholder: p.placeholder } : {})}
        {...(p.describedBy ? { "aria-describedby": p.describedBy } : {})}
        onFocus={p.onHold}
        onBlur={p.onCommit}
        onChange={(e) => p.onChange(e.target.value ? { text: e.target.value, unit: p.unit } : null)}
        onKeyDown={(e) => {
          if (e.key !== "Enter" || e.ctrlKey || e.metaKey || !(p.onNext ?? p.onCommit)) return;
          e.preventDefault();
          p.onCommit?.();
          p.onNext?.();
        }}
      />
      {choice && (
        <select
          className={p.unitClass ?? "inline-select unit"}
          aria-label={`${p.label}, unit`}
          value={p.unit}
          onBlur={p.onCommit}
          onChange={(e) => (p.onUnit ? p.onUnit(e.target.value) : p.onChange({ text, unit: e.target.value }))}
        >
          {p.units?.map((u) => (
            <option key={u} value={u}>
              {p.symbols?.[u] ?? u}
            </option>
          ))}
        </select>
      )}
    </>
  );
}
