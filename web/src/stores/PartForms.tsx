/** What is entered of a spare: its words and figures, and a new one. */
import { Act, address, Complaint, SENDING, useSmallForm, type Schemas } from "../base";
import css from "./stores.module.scss";

type Spare = Schemas["SpareOut"];

export function Word({
  id,
  label,
  value,
  set,
  list,
  numeric = false,
}: {
  id: string;
  label: string;
  value: string;
  set: (v: string) => void;
  list?: string;
  numeric?: boolean;
}) {
  return (
    <div className="field">
      <label htmlFor={id}>{label}</label>
      <input
        id={id}
        maxLength={60}
        value={value}
        {...(list ? { list } : {})}
        {...(numeric ? { inputMode: "numeric" as const } : {})}
        onChange={(e) => set(e.target.value)}
      />
    </div>
  );
}
const FIGURES = [
  ["per_year", "Used a year"],
  ["lead_days", "Lead time, measured, days"],
  ["price", "Price"],
  ["day_cost", "A day without it costs"],
  ["least", "Least, set by the site"],
  ["most", "Most, set by the site"],
] as const;
export function Figures({ part }: { part: Spare }) {
  const start = {
    title: part.title,
    lines: part.lines.join(", "),
    fits: part.fits.join(", "),
    per_year: text(part.per_year),
    lead_days: text(part.lead_days),
    price: text(part.price),
    day_cost: text(part.day_cost),
    least: part.least_set ? text(part.least) : "",
    most: part.least_set ? text(part.most) : "",
  };
  const form = useSmallForm(`figures:${String(part.id)}:${String(part.version)}`, start);
  const number = (v: string) => (v.trim() === "" ? null : Number(v.replace(",", ".")));
  const wrong = FIGURES.find(([n]) => !Number.isFinite(number(form.v[n]) ?? 0));
  return (
    <div className={css.row}>
      <Word
        id={`ti${String(part.id)}`}
        label="Part"
        value={form.v.title}
        set={(title) => form.set({ title })}
      />
      <Word
        id={`li${String(part.id)}`}
        label="Fills kit lines, by comma"
        value={form.v.lines}
        set={(lines) => form.set({ lines })}
      />
      <Word
        id={`fi${String(part.id)}`}
        label="Fits, kinds or tags by comma"
        value={form.v.fits}
        set={(fits) => form.set({ fits })}
      />
      {FIGURES.map(([n, label]) => (
        <Word
          key={n}
          id={`${n}${String(part.id)}`}
          label={label}
          value={form.v[n]}
          set={(v) => form.set({ [n]: v })}
          numeric
        />
      ))}
      <Act
        waits={
          (form.busy && SENDING) ||
          (!form.v.title.trim() && "Enter the part.") ||
          (wrong && `${wrong[1]}: a figure, or nothing.`)
        }
        onClick={() =>
          void form.send(
            "PUT",
            address("/api/v1/parts/{part_id}/figures", { part_id: part.id }),
            {
              expected_version: part.version,
              title: form.v.title.trim(),
              lines: list(form.v.lines),
              fits: list(form.v.fits),
              ...Object.fromEntries(FIGURES.map(([n]) => [n, number(form.v[n])])),
            },
            `${part.code}, figures`,
          )
        }
      >
        Save figures
      </Act>
      <Complaint error={form.error} />
    </div>
  );
}
const text = (v: number | null): string => (v === null ? "" : String(v));
const list = (v: string): string[] =>
  v
    .split(",")
    .map((x) => x.trim().replace(/ /g, "_"))
    .filter(Boolean);
export function NewPart({ site }: { site: number }) {
  const form = useSmallForm("newpart", { code: "", title: "", lines: "" });
  return (
    <div className={css.row}>
      <Word id="new-code" label="Code" value={form.v.code} set={(code) => form.set({ code })} />
      <Word id="new-title" label="Part" value={form.v.title} set={(title) => form.set({ title })} />
      <Word
        id="new-lines"
        label="Fills kit lines, by comma"
        value={form.v.lines}
        set={(lines) => form.set({ lines })}
      />
      <Act
        waits={
          (form.busy && SENDING) || ((!form.v.code.trim() || !form.v.title.trim()) && "Enter code and part.")
        }
        onClick={() =>
          void form.send(
            "POST",
            address("/api/v1/sites/{site_id}/parts", { site_id: site }),
            { code: form.v.code.trim(), title: form.v.title.trim(), lines: list(form.v.lines), fits: [] },
            `${form.v.code}, added`,
          )
        }
      >
        Add part
      </Act>
      <Complaint error={form.error} />
    </div>
  );
}
