/** Our own keypad, docked under the thumb; what the sheet says stands on it. */
import type { ReactNode } from "react";
import css from "../base.module.scss";

interface Props {
  left: boolean;
  says: ReactNode;
  units: { code: string; symbol: string }[];
  unit: string;
  last: string;
  nextLabel: string;
  onKey: (key: string) => void;
  onUnit: (code: string) => void;
  onSame: () => void;
  onClear: () => void;
  onNext: () => void;
}
export function Keypad(p: Props) {
  const key = (k: string, word = false) => (
    <button
      type="button"
      key={k}
      className={word ? css.word : ""}
      onPointerDown={(e) => e.preventDefault()}
      onClick={() => p.onKey(k)}
      {...(k === "⌫" ? { "aria-label": "backspace" } : {})}
    >
      {k}
    </button>
  );
  const act = (label: string, run: () => void, cls = css.word, off = false) => (
    <button
      type="button"
      key={label}
      className={cls}
      disabled={off}
      onPointerDown={(e) => e.preventDefault()}
      onClick={run}
    >
      {label}
    </button>
  );
  return (
    <div className={p.left ? `${css.keypad} ${css.left}` : css.keypad} role="group" aria-label="Keypad">
      <div className={css.says}>{p.says}</div>
      <div className={css.keys}>
        {["7", "8", "9"].map((k) => key(k))}
        {key(">")}
        {act("clear", p.onClear)}
        {["4", "5", "6"].map((k) => key(k))}
        {key("OL", true)}
        <select aria-label="Unit" value={p.unit} onChange={(e) => p.onUnit(e.target.value)}>
          {p.units.map((u) => (
            <option key={u.code} value={u.code}>
              {u.symbol}
            </option>
          ))}
        </select>
        {["1", "2", "3"].map((k) => key(k))}
        {key("±")}
        {key("⌫")}
        {key("0")}
        {key(".")}
        {act(p.last ? "same" : "no last", p.onSame, css.word, !p.last)}
        {act(p.nextLabel, p.onNext, css.next)}
      </div>
    </div>
  );
}
