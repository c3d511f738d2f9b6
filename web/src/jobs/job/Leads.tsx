/** The lead map: which lead was on which conductor, one line each. */
import { Act } from "../../base";
import type { Body, Job, View } from "./useJob";
import css from "./job.module.scss";

const FIELDS = [
  ["lead", "Lead", 20],
  ["conductor", "On conductor", 20],
  ["shares", "Shares a nut with", 40],
] as const;

export function Leads({ job, view }: { job: Job; view: View }) {
  const value = (name: string) => String(job.typed[`lead:${name}`] ?? "");
  const add = () => {
    job.say({
      kind: "lead",
      lead: value("lead").trim(),
      conductor: value("conductor").trim(),
      ...(value("shares").trim() ? { shares: value("shares").trim() } : {}),
    } as Body);
    job.forget("lead:lead", "lead:conductor", "lead:shares");
  };
  return (
    <section className={css.leads} aria-label="Lead map">
      <ul>
        {view.leads.map((l) => (
          <li key={l.what} data-lead={l.what}>
            <span className="mono">{l.what}</span>
            <svg viewBox="0 0 60 12" aria-hidden="true">
              <path d="M0 6H22M38 6H60M22 6a8 4 0 1 0 16 0a8 4 0 1 0 -16 0" />
            </svg>
            {l.how}
          </li>
        ))}
      </ul>
      {job.tools.writes && (
        <div className={css.leadrow}>
          {FIELDS.map(([name, label, most]) => (
            <div key={name} className="field">
              <label htmlFor={`lead-${name}`}>{label}</label>
              <input
                id={`lead-${name}`}
                maxLength={most}
                value={value(name)}
                onChange={(e) => job.put(`lead:${name}`, e.target.value)}
              />
            </div>
          ))}
          <Act
            waits={
              (!value("lead").trim() && "Enter the lead.") ||
              (!value("conductor").trim() && "Enter its conductor.")
            }
            onClick={add}
          >
            Add lead
          </Act>
        </div>
      )}
    </section>
  );
}
