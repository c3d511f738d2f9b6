/** What is kept on this device, in one database: parcels, refusals, drafts with their entries, cases. */
import { openDB, type DBSchema, type IDBPDatabase } from "idb";
import type { Parcel, Refusal } from "./outbox";

/** A draft as it was typed last: of which sheet or form its key says. */
export interface Draft {
  key: string;
  value: unknown;
}
/** What the server told of a bench and its set when it was heard last. */
export interface Kept {
  key: string;
  at: number;
  data: unknown;
}
interface Held extends DBSchema {
  outbox: { key: string; value: Parcel };
  refused: { key: string; value: Refusal };
  drafts: { key: string; value: Draft };
  cases: { key: string; value: Kept };
}
const STORES = ["outbox", "refused"] as const;
const LATER = ["drafts", "cases"] as const;

/** Another tab runs an older version of this page, and holds the store as that knew it. */
let blocked = false;
const watching = new Set<(blocked: boolean) => void>();
function setBlocked(now: boolean) {
  blocked = now;
  watching.forEach((w) => w(now));
}
export function onBlocked(watch: (blocked: boolean) => void): () => void {
  watching.add(watch);
  watch(blocked);
  return () => void watching.delete(watch);
}

let database: Promise<IDBPDatabase<Held>> | null = null;
export const store = (): Promise<IDBPDatabase<Held>> =>
  (database ??= openDB<Held>("hurbin", 3, {
    upgrade(db) {
      for (const name of STORES)
        if (!db.objectStoreNames.contains(name)) db.createObjectStore(name, { keyPath: "id" });
      for (const name of LATER)
        if (!db.objectStoreNames.contains(name)) db.createObjectStore(name, { keyPath: "key" });
    },
    blocked: () => setBlocked(true),
    // Another tab wants a newer shape: it gets it, and this one opens the new one when it is asked next.
    blocking: (_now, _wanted, event) => {
      (event.target as IDBDatabase).close();
      database = null;
    },
    terminated: () => {
      database = null;
    },
  }).then((db) => {
    setBlocked(false);
    return db;
  }));

/** Between the tabs of one device: only one of them does it at a time; where a browser has no locks, at once. */
export async function alone<T>(name: string, work: () => Promise<T>): Promise<T> {
  if (typeof navigator === "undefined" || !navigator.locks) return work();
  return (await navigator.locks.request(`hurbin-${name}`, work)) as T;
}
/** What one tab tells the others. */
export function channel<T>(name: string, heard: (told: T) => void): (told: T) => void {
  if (typeof BroadcastChannel === "undefined") return () => undefined;
  const line = new BroadcastChannel(`hurbin-${name}`);
  line.onmessage = (e: MessageEvent<T>) => heard(e.data);
  return (told) => line.postMessage(told);
}
