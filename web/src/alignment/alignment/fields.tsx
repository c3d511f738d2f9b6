/** One figure where it belongs on a drawing: typed, with its unit, refused in its place. */
import { Fragment } from "react";
import type { EnteredRule, Shown } from "../../base";
import type { Body, Figure } from "./logic";

export interface Tools {
  rules: Record<string, EnteredRule>;
  symbols: Record<string, string>;
  answer: Shown | null;
  narrow: boolean;
  may: boolean;
  body: Body;
  unitOf: (name: Figure) => string;
  type: (name: Figure, text: string, unit?: string) => void;
  change: (next: Body) => void;
  hold: (name: Figure | null) => void;
  next: (name: Figure) => void;
}
export function Field({
  t,
  name,
  big = false,
  bare = false,
  label = "",
}: {
  t: Tools;
  name: Figure;
  big?: boolean;
  bare?: boolean;
  label?: string;
}) {
  const rule = t.rules[name];
  const refused = Boolean(t.answer?.problems.some((p) => p.field === name));
  return (
    <span className={refused ? "setupfield refused" : "setupfield"}>
      <input
        id={`a-${name}`}
        className={big ? "mono big" : "mono"}
        aria-label={label || rule?.label || name}
        aria-invalid={refused}
        autoComplete="off"
        readOnly={!t.may}
        inputMode={t.narrow ? "none" : "text"}
        value={t.body[name]?.text ?? ""}
        onFocus={() => t.hold(name)}
        onChange={(e) => t.type(name, e.target.value)}
        onKeyDown={(e) => {
          if (e.key === "Enter" && !e.ctrlKey) {
            e.preventDefault();
            t.next(name);
          }
        }}
      />
      {rule && rule.units.length > 1 && !bare && (
        <select
          className="inline-select unit"
          aria-label={`${rule.label}, unit`}
          value={t.unitOf(name)}
          onChange={(e) => t.type(name, t.body[name]?.text ?? "", e.target.value)}
        >
          {rule.units.map((u) => (
            <option key={u} value={u}>
              {t.symbols[u] ?? u}
            </option>
          ))}
        </select>
      )}
    </span>
  );
}
/** A figure with its name over it, standing at a place of a drawing given in parts of its width and height. */
export function Placed({
  t,
  name,
  x,
  y,
  label = "",
}: {
  t: Tools;
  name: Figure;
  x: number;
  y: number;
  label?: string;
}) {
  return (
    <span className="placed dimfield" style={{ left: `${x}%`, top: `${y}%` }}>
      <label htmlFor={`a-${name}`}>{label || t.rules[name]?.label.toLowerCase()}</label>
      <Field t={t} name={name} />
    </span>
  );
}
export function Labelled({ t, name, label = "" }: { t: Tools; name: Figure; label?: string }) {
  return (
    <span className="dimfield">
      <label htmlFor={`a-${name}`}>{label || t.rules[name]?.label.toLowerCase()}</label>
      <Field t={t} name={name} />
    </span>
  );
}
type Choices = { [K in keyof Body]-?: NonNullable<Body[K]> extends string ? K : never }[keyof Body];
export function Pick({
  t,
  name,
  label,
  options,
}: {
  t: Tools;
  name: Choices;
  label: string;
  options: [string, string][];
}) {
  return (
    <select
      className="inline-select"
      aria-label={label}
      disabled={!t.may}
      value={(t.body[name] as string | undefined) ?? options[0]?.[0]}
      onChange={(e) => t.change({ [name]: e.target.value || null } as Body)}
    >
      {options.map(([v, w]) => (
        <option key={v} value={v}>
          {w}
        </option>
      ))}
    </select>
  );
}
type Ticks = { [K in keyof Body]-?: NonNullable<Body[K]> extends boolean ? K : never }[keyof Body];
export function Tick({ t, name, children }: { t: Tools; name: Ticks; children: string }) {
  return (
    <label className="confirm">
      <input
        type="checkbox"
        disabled={!t.may}
        checked={t.body[name] === true}
        onChange={(e) => t.change({ [name]: e.target.checked } as Body)}
      />{" "}
      {children}
    </label>
  );
}
/** A pack as it is written: 0.50 + 0.25. */
export function PackField({ t, foot, title }: { t: Tools; foot: string; title: string }) {
  const name = `pack_${foot}` as keyof Body;
  const refused = t.answer?.problems.find((p) => p.field === name);
  return (
    <Fragment>
      <label htmlFor={`a-${name}`}>{title}</label>
      <input
        id={`a-${name}`}
        className="mono pack"
        aria-invalid={Boolean(refused)}
        autoComplete="off"
        placeholder="0.50 + 0.25 mm"
        maxLength={80}
        readOnly={!t.may}
        value={(t.body[name] as string | undefined) ?? ""}
        onFocus={() => t.hold(null)}
        onChange={(e) => t.change({ [name]: e.target.value } as Body)}
      />
    </Fragment>
  );
}
