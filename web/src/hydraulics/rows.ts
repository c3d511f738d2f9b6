/** Rows of figures on a sheet: a field is called by its list, its row and its name ("readings.0.pressure"). */
import type { EnteredRule, Entered } from "../base";

export type Row = Record<string, unknown>;
type Lists = Record<string, readonly string[]>;

/** The rules of a sheet with those of its rows, as many as there are and one more. */
export function rowRules(
  rules: Record<string, EnteredRule>,
  lists: Lists,
  body: object,
): Record<string, EnteredRule> {
  const out = { ...rules };
  for (const [list, fields] of Object.entries(lists)) {
    for (let i = 0; i <= rowsOf(body, list).length; i += 1)
      for (const field of fields) {
        const rule = rules[field];
        if (rule)
          out[`${list}.${String(i)}.${field}`] = { ...rule, label: `${rule.label}, row ${String(i + 1)}` };
      }
  }
  return out;
}
export const rowsOf = (body: object, list: string): Row[] =>
  ((body as Row)[list] as Row[] | null | undefined) ?? [];

/** The list, the row and the field that a name means; none for any other field. */
export function cellOf(name: string): [string, number, string] | null {
  const parts = name.split(".");
  const [list, at, field] = parts;
  return parts.length === 3 && list && at && field ? [list, Number(at), field] : null;
}
export function figureIn(body: object, name: string): Entered | null | undefined {
  const cell = cellOf(name);
  return cell ? (rowsOf(body, cell[0])[cell[1]]?.[cell[2]] as Entered | null | undefined) : undefined;
}
/** The list with this row changed; a row of which nothing is left goes, but never one in between. */
export function changedRow(body: object, list: string, at: number, more: Row): Row[] {
  const rows = [...rowsOf(body, list)];
  while (rows.length <= at) rows.push({});
  rows[at] = { ...rows[at], ...more };
  while (rows.length && empty(rows[rows.length - 1])) rows.pop();
  return rows;
}
const empty = (row: Row | undefined): boolean =>
  !row || Object.values(row).every((v) => v === null || v === undefined || v === "" || v === false);
export const without = (body: object, list: string, at: number): Row[] =>
  rowsOf(body, list).filter((_, i) => i !== at);
