/** What waits to be sent about a source, and how a hanging tag is drawn. */
import type { SafeBody } from "./queries";

/** What was entered at a source, while nobody else knows of it. */
const DONE: Partial<Record<SafeBody["kind"], string>> = {
  shut: "isolated",
  lock: "lock on",
  released: "stored energy released",
  unlock: "lock off",
  opened: "restored",
};
/** Is a word on this source still on its way? */
export function waitsFor(pending: { body: SafeBody }[], source: string): string {
  const last = pending.filter((p) => p.body.source === source).at(-1)?.body.kind;
  return last ? `${DONE[last] ?? "entry"}: not sent yet` : "";
}
export function initials(name: string): string {
  return name
    .split(/\s+/)
    .map((w) => w[0] ?? "")
    .join("")
    .slice(0, 2)
    .toUpperCase();
}
/** Words of somebody's own as a sentence: one full stop at the end, whoever set it. */
export const sentence = (text: string): string => (text.trim() ? `${text.trim().replace(/[.]+$/, "")}.` : "");
/** The outline of a tag on its string, its hole at 0, 0. */
export const TAG_OUTLINE = "M0-7L6-2V14H-6V-2z";
