/** Every write goes through here: kept on the device first, then sent, until it is answered. */
import { openDB, type IDBPDatabase } from "idb";
import { ApiError, send } from "./client";

export interface Parcel {
  id: string;
  user: string;
  method: string;
  path: string;
  body: unknown;
  label: string;
  made: number;
}
type Outcome = { ok: true; answer: unknown } | { ok: false; error: ApiError };
type Listener = (waiting: Parcel[]) => void;

const RETRY_MS = 3000;
let database: Promise<IDBPDatabase> | null = null;
const open = () =>
  (database ??= openDB("hurbin", 1, {
    upgrade(db) {
      db.createObjectStore("outbox", { keyPath: "id" });
    },
  }));

export class Outbox {
  private waiters = new Map<string, (o: Outcome) => void>();
  private listeners = new Set<Listener>();
  private busy = false;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private user = "";
  private paused = false;

  /** Whose parcels may go: another person's stay until they sign in again. */
  signedIn(user: string) {
    this.user = user;
    this.paused = false;
    void this.flush();
  }
  pause() {
    this.paused = true;
  }
  onChange(listener: Listener): () => void {
    this.listeners.add(listener);
    void this.waiting().then(listener);
    return () => this.listeners.delete(listener);
  }
  async waiting(): Promise<Parcel[]> {
    const all = (await (await open()).getAll("outbox")) as Parcel[];
    return all.filter((p) => p.user === this.user).sort((a, b) => a.made - b.made);
  }

  /** Keep, then send. Resolves with the answer; rejects with the refusal. Waits as long as nobody answers. */
  async write<T>(method: string, path: string, body: unknown, label: string, id: string = crypto.randomUUID()): Promise<T> {
    const parcel: Parcel = { id, user: this.user, method, path, body, label, made: Date.now() };
    await (await open()).put("outbox", parcel);
    const outcome = new Promise<Outcome>((resolve) => this.waiters.set(id, resolve));
    void this.flush();
    const told = await outcome;
    if (!told.ok) throw told.error;
    return told.answer as T;
  }

  async forget(id: string) {
    await (await open()).delete("outbox", id);
    await this.tell();
  }

  async flush(): Promise<void> {
    if (this.busy || this.paused || !this.user) return;
    this.busy = true;
    clearTimeout(this.timer);
    try {
      for (const parcel of await this.waiting()) {
        await this.tell();
        if (!(await this.deliver(parcel))) break;
      }
    } finally {
      this.busy = false;
      await this.tell();
    }
    if (!this.paused && (await this.waiting()).length > 0) this.timer = setTimeout(() => void this.flush(), RETRY_MS);
  }

  private async deliver(parcel: Parcel): Promise<boolean> {
    try {
      const answer = await send(parcel.method, parcel.path, parcel.body);
      await this.settle(parcel.id, { ok: true, answer });
      return true;
    } catch (error) {
      const refusal = error instanceof ApiError ? error : new ApiError(0, "failed", String(error));
      if (refusal.again) return false;
      if (refusal.status === 401) {
        this.paused = true;
        return false;
      }
      await this.settle(parcel.id, { ok: false, error: refusal });
      return true;
    }
  }
  private async settle(id: string, outcome: Outcome) {
    await (await open()).delete("outbox", id);
    const waiter = this.waiters.get(id);
    this.waiters.delete(id);
    waiter?.(outcome);
  }
  private async tell() {
    const waiting = await this.waiting();
    this.listeners.forEach((l) => l(waiting));
  }
}

export const outbox = new Outbox();
