/** A table of the rulebook as its source gives it: its figures are drawn once it is opened. */
import { useState } from "react";
import type { Schemas } from "../../base";
import { sourced } from "../components/FindingBox";
import css from "../logbook.module.scss";

export function RuleTable({ table }: { table: Schemas["TableRow"] }) {
  const [open, setOpen] = useState(false);
  return (
    <details data-table={table.id} onToggle={(e) => setOpen(e.currentTarget.open)}>
      <summary>{table.title}</summary>
      {open && <Figures table={table} />}
      <p className="mute">
        {table.why} {sourced(table)}.
      </p>
    </details>
  );
}

function Figures({ table }: { table: Schemas["TableRow"] }) {
  return (
    <div className={css.sidescroll}>
      <table className={css.figures}>
        <thead>
          <tr>
            {table.columns.map((c) => (
              <th key={c}>{c}</th>
            ))}
          </tr>
        </thead>
        <tbody>
          {table.rows.map((r) => (
            <tr key={r.join()}>
              {r.map((c, i) => (
                <td key={table.columns[i]} className="mono">
                  {c}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
