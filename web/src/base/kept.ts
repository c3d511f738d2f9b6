/** A read that stands without a signal as it was told last: kept on this device, per person. */
import { useEffect, useState } from "react";
import { ApiError } from "./client";
import type { Query } from "./components/States";
import { store, type Kept } from "./store";
import { useMe } from "./session";

/** `since`: of when it is, where nobody could be reached for a newer one; null: it is as the server says. */
export function useKept<T>(name: string, query: Query<T>): Query<T> & { since: Date | null } {
  const key = `${useMe().username}:${name}`;
  const [kept, setKept] = useState<Kept | null>(null);
  const { data, error } = query;
  const away = error instanceof ApiError && error.away;
  useEffect(() => {
    if (data === undefined) return;
    void store()
      .then((db) => db.put("cases", { key, at: Date.now(), data }))
      .catch(() => undefined);
  }, [key, data]);
  useEffect(() => {
    if (!away || data !== undefined) return undefined;
    let over = false;
    void store()
      .then((db) => db.get("cases", key))
      .then((found) => !over && setKept(found ?? null))
      .catch(() => undefined);
    return () => {
      over = true;
    };
  }, [key, away, data]);
  const stands = data === undefined && away && kept?.key === key ? kept : null;
  return {
    data: stands ? (stands.data as T) : data,
    error: stands ? null : error,
    refetch: query.refetch,
    since: stands ? new Date(stands.at) : null,
  };
}
/** Whoever signs out leaves nothing of the plant on the device; what waits to be sent stays. */
export async function dropKept(): Promise<void> {
  await (await store()).clear("cases");
}
