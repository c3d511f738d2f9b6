/** How a page says that it waits, failed, is forbidden, or is not there. */
import type { ReactNode } from "react";
import { useEffect, useState } from "react";
import { Link } from "react-router";
import { ApiError, type Schemas } from "../client";
import small from "../small.module.scss";
import css from "../base.module.scss";

export function Waiting({ what = "" }: { what?: string }) {
  const [slow, setSlow] = useState(false);
  useEffect(() => {
    const timer = setTimeout(() => setSlow(true), 900);
    return () => clearTimeout(timer);
  }, []);
  return (
    <div role="status" className={small.waitsHere}>
      <div className={css["waiting-line"]} />
      {slow && <p className="mute">{what || "Loading"}…</p>}
    </div>
  );
}

export function Failed({ error, again }: { error: unknown; again?: () => void }) {
  const e = error instanceof ApiError ? error : new ApiError(0, "failed", "This page could not be shown.");
  const title: Record<string, string> = {
    forbidden: "No permission",
    disabled: "Access ended",
    not_found: "Not found",
    no_connection: "No connection",
    database_gone: "Database not responding",
  };
  return (
    <div className="emptyword" role="alert">
      <h1>{title[e.code] ?? "Request failed"}</h1>
      <p>{e.message}</p>
      <p className="rowflex">
        {again && (
          <button className="btn-line" onClick={again}>
            Try again
          </button>
        )}
        <Link to="/">Back to Plant</Link>
      </p>
    </div>
  );
}

export interface Query<T> {
  data: T | undefined;
  error: unknown;
  refetch: () => unknown;
}
/** Several reads as one: there when all are there, failed when one is, tried again where it failed. */
export function together<Q extends Record<string, Query<unknown>>>(
  queries: Q,
): Query<{ [K in keyof Q]: NonNullable<Q[K]["data"]> }> {
  const all = Object.entries(queries);
  const there = all.every(([, q]) => q.data !== undefined);
  const data = there ? Object.fromEntries(all.map(([name, q]) => [name, q.data])) : undefined;
  return {
    data: data as { [K in keyof Q]: NonNullable<Q[K]["data"]> } | undefined,
    error: all.find(([, q]) => q.data === undefined && q.error)?.[1].error,
    refetch: () => all.forEach(([, q]) => q.data === undefined && q.refetch()),
  };
}

/** Loading, failed, or the page: one place for the three. */
export function Ready<T>({
  query,
  what,
  children,
}: {
  query: Query<T>;
  what?: string;
  children: (data: T) => ReactNode;
}) {
  if (query.data !== undefined) return <>{children(query.data)}</>;
  if (query.error) return <Failed error={query.error} again={() => void query.refetch()} />;
  return <Waiting {...(what ? { what } : {})} />;
}

export function Complaint({ error }: { error: unknown }) {
  if (!error) return null;
  const message = error instanceof ApiError ? error.message : String(error);
  const rest = error instanceof ApiError ? error.problems.filter((p) => p.message !== message) : [];
  return (
    <div className="notice bad" role="alert">
      {message}
      {rest.map((p) => (
        <div key={p.field + p.message}>{p.message}</div>
      ))}
    </div>
  );
}
/** The refusal that belongs to one field. */
export function problemOf(error: unknown, field: string): string {
  return error instanceof ApiError ? (error.problems.find((p) => p.field === field)?.message ?? "") : "";
}

/** What came after its sheet was closed: on file, and not in the record. */
export function KeptLate({ sheet }: { sheet: Schemas["SheetOut"] | null }) {
  if (!sheet) return null;
  const count = sheet.entries.filter((e) => e.late).length;
  const how = sheet.record ? "saved" : "closed without record";
  const who = sheet.closed_by ? `by ${sheet.closed_by} ` : "";
  return (
    <div className="notice" role="status" data-testid="kept-late">
      This sheet was {how} {who}meanwhile: {count === 1 ? "one entry is" : `${count} entries are`} kept beside
      it as late, not in it. {sheet.record && <Link to={`/records/${sheet.record}`}>Open the record</Link>}
    </div>
  );
}
