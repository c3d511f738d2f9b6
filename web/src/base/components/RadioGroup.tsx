/** One of a few, as buttons: one stop of the Tab key, arrows go round, Home and End to the ends. */
import { useRef, type KeyboardEvent, type ReactNode } from "react";

interface Props<T extends string | number> {
  label: string;
  options: readonly T[];
  value: T | null;
  onChoose: (value: T) => void;
  /** What is seen of an option, and what it is called where nothing of it can be read. */
  says?: (value: T) => ReactNode;
  named?: (value: T) => string;
  className?: string;
  optionClass?: (value: T) => string;
  disabled?: boolean;
  /** Drawn among the options: what they are chosen on. */
  children?: ReactNode;
}
const STEP: Record<string, number> = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 };

export function RadioGroup<T extends string | number>(p: Props<T>) {
  const { options, value } = p;
  const group = useRef<HTMLSpanElement>(null);
  const at = value === null ? -1 : options.indexOf(value);
  const choose = (i: number) => {
    const to = options[i];
    if (to === undefined || p.disabled) return;
    p.onChoose(to);
    group.current?.querySelectorAll<HTMLElement>("[role=radio]")[i]?.focus();
  };
  const onKeyDown = (e: KeyboardEvent) => {
    const step = STEP[e.key];
    const last = options.length - 1;
    if (e.ctrlKey || e.altKey || e.metaKey) return;
    if (step !== undefined) choose((Math.max(at, 0) + (at < 0 ? 0 : step) + options.length) % options.length);
    else if (e.key === "Home") choose(0);
    else if (e.key === "End") choose(last);
    else return;
    e.preventDefault();
  };
  return (
    <span ref={group} className={p.className} role="radiogroup" aria-label={p.label} onKeyDown={onKeyDown}>
      {p.children}
      {options.map((o, i) => (
        <button
          key={o}
          type="button"
          role="radio"
          className={p.optionClass?.(o) ?? "btn-line"}
          aria-checked={o === value}
          aria-label={p.named?.(o)}
          tabIndex={i === Math.max(at, 0) ? 0 : -1}
          disabled={p.disabled}
          onClick={() => p.onChoose(o)}
        >
          {p.says?.(o)}
        </button>
      ))}
    </span>
  );
}
