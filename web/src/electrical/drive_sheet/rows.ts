/** The rows of a drive's sheet as the web keeps them: only those of which something was said. */
import type { EntryBody, Schemas } from "../../base";

export type Body = EntryBody<"drive_sheet">;
export type Row = NonNullable<Body["rows"]>[number];
export type View = Schemas["ShownDriveSheetView"];
export type Setting = View["groups"][number]["rows"][number];
type Word = "found" | "left" | "should" | "why" | "reason";

const empty = (row: Row): boolean => !row.found && !row.left && !row.should && !row.why && !row.reason;
export const rowOf = (rows: readonly Row[], id: string): Row => rows.find((r) => r.id === id) ?? blank(id);
const blank = (id: string): Row => ({ id, found: "", left: "", should: "", why: "", reason: "" });

/** One word of one row; a row of which nothing is said any more goes. */
export function put(rows: readonly Row[], id: string, word: Word, text: string): Row[] {
  const next = { ...rowOf(rows, id), [word]: text };
  const others = rows.filter((r) => r.id !== id);
  if (empty(next)) return others;
  const at = rows.findIndex((r) => r.id === id);
  return at < 0 ? [...others, next] : rows.map((r) => (r.id === id ? next : r));
}
/** What a drive or a file said, as found; what was typed as left, and why, stays. */
export function taken(rows: readonly Row[], settings: Readonly<Record<string, string>>): Row[] {
  return Object.entries(settings).reduce((all, [id, text]) => put(all, id, "found", text), [...rows]);
}
/** What the last visit stated of what it ought to be: it holds until somebody says otherwise. */
export function stated(rows: readonly Row[] | null | undefined): Row[] {
  return (rows ?? [])
    .filter((r) => r.should)
    .map((r) => ({ ...blank(r.id ?? ""), should: r.should ?? "", why: r.why ?? "" }));
}
export const SHOWN = ["all", "wrong", "moved", "unread"] as const;
export type Shown = (typeof SHOWN)[number];
export function isShown(setting: Setting, shown: Shown): boolean {
  if (shown === "moved") return setting.moved;
  if (shown === "wrong") return setting.state === "wrong" || setting.state === "reasoned";
  if (shown === "unread") return setting.state === "unread" || setting.state === "unsure";
  return true;
}
export const settingsOf = (rows: readonly Row[]): Record<string, string> =>
  Object.fromEntries(rows.filter((r) => r.left || r.found).map((r) => [r.id ?? "", r.left || r.found || ""]));
