/** What is said beside the figures of a visit: words to choose, ticks, packs as they are written. */
import { Fragment } from "react";
import { Spot } from "../../base";
import { fieldId, NamedFigure, useTools } from "../../safety";
import type { Body, Figure } from "./logic";
import css from "./work.module.scss";

/** The visit as it stands, and how it is changed. */
export interface Visit {
  body: Body;
  change: (next: Body) => void;
}
/** A figure with its name over it, standing at a place of a drawing given in parts of its width and height. */
export function Placed({ name, x, y, label }: { name: Figure; x: number; y: number; label?: string }) {
  return (
    <Spot className={css.placed} at={{ left: `${x}%`, top: `${y}%` }}>
      <NamedFigure name={name} {...(label ? { label } : {})} />
    </Spot>
  );
}
type Choices = { [K in keyof Body]-?: NonNullable<Body[K]> extends string ? K : never }[keyof Body];
export function Pick({
  t,
  name,
  label,
  options,
}: {
  t: Visit;
  name: Choices;
  label: string;
  options: [string, string][];
}) {
  const { may } = useTools();
  return (
    <select
      className="inline-select"
      aria-label={label}
      disabled={!may}
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
export function Tick({ t, name, children }: { t: Visit; name: Ticks; children: string }) {
  const { may } = useTools();
  return (
    <label className="confirm">
      <input
        type="checkbox"
        disabled={!may}
        checked={t.body[name] === true}
        onChange={(e) => t.change({ [name]: e.target.checked } as Body)}
      />{" "}
      {children}
    </label>
  );
}
/** A pack as it is written: 0.50 + 0.25. */
export function PackField({ t, foot, title }: { t: Visit; foot: string; title: string }) {
  const { answer, hold, may } = useTools();
  const name = `pack_${foot}` as keyof Body;
  const refused = answer?.problems.find((p) => p.field === name);
  return (
    <Fragment>
      <label htmlFor={fieldId(name)}>{title}</label>
      <input
        id={fieldId(name)}
        className={`mono ${css.pack}`}
        aria-invalid={Boolean(refused)}
        autoComplete="off"
        placeholder="0.50 + 0.25 mm"
        maxLength={80}
        readOnly={!may}
        value={(t.body[name] as string | undefined) ?? ""}
        onFocus={() => hold(null)}
        onChange={(e) => t.change({ [name]: e.target.value } as Body)}
      />
    </Fragment>
  );
}
