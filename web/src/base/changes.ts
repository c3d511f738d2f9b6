/** The one poll: what moved since the last time, and which of the shown pages that concerns. */
import { useQueryClient, type QueryClient, type QueryKey } from "@tanstack/react-query";
import { useEffect } from "react";
import { send, type Schemas } from "./client";

export type Moved = Schemas["WhatMoved"];
type Changes = Schemas["ChangesOut"];
export const SEEN_MS = 7000;
export const HIDDEN_MS = 30_000;
/** A page may have read a moment before it first asked what moved. */
const BEFORE_MS = 1500;

/** What hangs on time alone, an answer overdue, is read again so often, while nobody changes anything. */
export const AGING_MS = 60_000;

/** The newest number of everything that was told: the poll overlaps, and the same again is no news. */
export class Known {
  private held = new Map<string, number>();
  fresh(moved: Moved[]): Moved[] {
    return moved.filter((m) => {
      const key = `${m.kind} ${m.ref}`;
      const news = m.n > (this.held.get(key) ?? 0);
      if (news) this.held.set(key, m.n);
      return news;
    });
  }
}

/** Is this read of something that moved? Reads of a set hang on it, its mates, its site and the site's vans. */
export function concerns(key: QueryKey, moved: Moved[]): boolean {
  const [path, params] = key as [string, Record<string, unknown> | null];
  if (typeof path !== "string" || !path.startsWith("/api/")) return false;
  const { set_id: set, site_id: site } = params ?? {};
  if (typeof site === "number") return moved.some((m) => m.site === site);
  if (typeof set === "number")
    return moved.some((m) => (m.kind === "set" ? m.ref === set || (m.near ?? []).includes(set) : true));
  // What hangs on neither by its address: a record, a part, the running tests. The lists of sites and kinds
  // do not move by themselves.
  return moved.length > 0 && !/\/(sites|kinds|units|words|schema|benches)$/.test(path);
}

/** What an act moved, as far as this page can tell by itself: a set with its site, a site, or it cannot. */
export type Where = { set: number } | { site: number } | "anything";
export function whereOf(path: string, body?: unknown): Where {
  const said = (body ?? {}) as { set_id?: unknown; site_id?: unknown };
  const [set, site] = ["sets", "sites"].map((kind) => new RegExp(`/${kind}/(\\d+)(/|$)`).exec(path)?.[1]);
  if (set ?? said.set_id) return { set: Number(set ?? said.set_id) };
  if (site ?? said.site_id) return { site: Number(site ?? said.site_id) };
  return "anything";
}
/** The reads that an act of this page made old, and no others; the poll tells of what it moved elsewhere. */
export async function renew(client: QueryClient, where: Where): Promise<void> {
  const of = "set" in Object(where) ? (where as { set: number }).set : null;
  const set = of && client.getQueryData<{ site_id: number }>(["/api/v1/sets/{set_id}", { set_id: of }]);
  const site = set ? set.site_id : "site" in Object(where) ? (where as { site: number }).site : null;
  if (where === "anything" || site === null) return client.invalidateQueries();
  const moved: Pick<Moved, "kind" | "ref" | "site">[] = [
    of ? { kind: "set", ref: of, site } : { kind: "site", ref: site, site },
  ];
  return client.invalidateQueries({ predicate: (q) => concerns(q.queryKey, moved as Moved[]) });
}

const covered = new Map<string, string[]>();
/** A read that brings these others with it: while it is shown, they are renewed by it and not one by one. */
export function brings(path: string, others: string[]) {
  for (const other of others) covered.set(other, [...(covered.get(other) ?? []), path]);
}
const broughtBy = (client: QueryClient, key: QueryKey): boolean =>
  (covered.get(String(key[0])) ?? []).some((path) => {
    const { set_id } = (key[1] ?? {}) as { set_id?: number };
    return (
      (client
        .getQueryCache()
        .find({ queryKey: [path, { set_id }] })
        ?.getObserversCount() ?? 0) > 0
    );
  });

/** Ask what moved, every few seconds while somebody looks, seldom while nobody does; never twice at once. */
export function useChanges(who: string, onNow: (iso: string, asked: number, heard: number) => void) {
  const client = useQueryClient();
  useEffect(() => {
    if (!who) return undefined;
    const known = new Known();
    const begun = Date.now();
    let since = "";
    let timer: ReturnType<typeof setTimeout>;
    let over = false;
    const ask = async () => {
      const asked = Date.now();
      try {
        const told = (await send(
          "GET",
          `/api/v1/changes${since ? `?since=${encodeURIComponent(since)}` : ""}`,
        )) as Changes;
        if (over) return;
        onNow(told.now, asked, Date.now());
        // The first answer tells of the time before this page as well: that was read with the page.
        const from = since ? 0 : Date.parse(told.now) - (asked - begun) - BEFORE_MS;
        const news = known.fresh(told.moved).filter((m) => Date.parse(m.at) >= from);
        since = told.now;
        if (news.length)
          await client.invalidateQueries({
            predicate: (q) => concerns(q.queryKey, news) && !broughtBy(client, q.queryKey),
          });
      } catch {
        // No answer now: what was missed is told with the next one, since when it was asked last.
      }
      if (!over) timer = setTimeout(() => void ask(), document.hidden ? HIDDEN_MS : SEEN_MS);
    };
    const now = () => {
      if (document.hidden) return;
      clearTimeout(timer);
      void ask();
    };
    void ask();
    document.addEventListener("visibilitychange", now);
    window.addEventListener("online", now);
    return () => {
      over = true;
      clearTimeout(timer);
      document.removeEventListener("visibilitychange", now);
      window.removeEventListener("online", now);
    };
  }, [who, client, onNow]);
}
