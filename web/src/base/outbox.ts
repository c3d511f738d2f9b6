/** Every write goes through here: kept on the device first, then sent, until it is answered. */
import type { Address, Answer, ApiPath, Body, Verb } from "./address";
import { ApiError, send, sendFile, type Problem } from "./client";
import { alone, channel, store } from "./store";

export interface Parcel {
  id: string;
  /** Under which it is sent, however often: the server does it once. */
  key: string;
  user: string;
  method: string;
  path: string;
  body: unknown;
  label: string;
  made: number;
  /** By how much this device's clock was measured to be off when the parcel was made, in ms to be added. */
  offset: number;
  /** A file that goes with it as a form, `body` being the form's words. */
  file?: Blob;
  /** How often the server failed over it, and from when on it is tried again. */
  failed: number;
  after: number;
}
/** What the server refused: kept until somebody has put it aside, or the same was taken. */
export interface Refusal {
  id: string;
  user: string;
  label: string;
  method: string;
  path: string;
  body: unknown;
  message: string;
  at: number;
}
type Outcome = { ok: true; answer: unknown } | { ok: false; error: ApiError };
/** How a parcel ended, told to the other tabs: one of them may wait for it. */
interface Ended {
  id: string;
  key: string;
  answer?: unknown;
  refused?: { status: number; code: string; message: string; problems: Problem[] };
}
/** asks: of those that wait, what is taken only once their sender has shown that it is he. */
type Listener = (waiting: Parcel[], refused: Refusal[], asks: Parcel[]) => void;

const RETRY_MS = 3000;
const LONGEST_MS = 60_000;
/** What must keep its order: everything about one set; else what goes to one address. */
function lane(p: Parcel): string {
  const said = (p.body as { set_id?: number } | null)?.set_id;
  const inPath = /\/sets\/(\d+)/.exec(p.path)?.[1];
  return said === undefined ? (inPath ?? p.path) : String(said);
}
/** As it was kept by an earlier version of this page. */
const today = (p: Parcel): Parcel => ({
  ...p,
  key: p.key ?? p.id,
  path: p.path.replace(/^\/api\/(?!v1\/)/, "/api/v1/"),
  offset: p.offset ?? 0,
  failed: p.failed ?? 0,
  after: p.after ?? 0,
});

export class Outbox {
  private waiters = new Map<string, (o: Outcome) => void>();
  private listeners = new Set<Listener>();
  private busy = false;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private user = "";
  private paused = false;
  private offset = 0;
  private made = 0;
  /** Refusals that the page itself told to whoever sent them: shown apart only after a reload. */
  private told = new Set<string>();
  /** On a tablet of several people: whoever holds it has to show first who he is. */
  private asked = new Set<string>();
  private readonly tellTabs = channel<Ended | null>("outbox", (ended) => {
    if (ended) {
      const { refused } = ended;
      const error = refused && new ApiError(refused.status, refused.code, refused.message, refused.problems);
      if (error && this.waiters.has(ended.id)) this.told.add(ended.id);
      this.answered(ended.id, error ? { ok: false, error } : { ok: true, answer: ended.answer });
    }
    void this.tell();
  });

  /** Whose parcels may go: another person's stay until they sign in again. */
  signedIn(user: string) {
    this.user = user;
    this.paused = false;
    this.asked.clear();
    void this.flush();
  }
  pause() {
    this.paused = true;
  }
  resume() {
    this.paused = false;
    void this.flush();
  }
  /** How far this device's clock is off, as measured against the server's: ms to be added. */
  clockOff(ms: number) {
    this.offset = ms;
  }
  onChange(listener: Listener): () => void {
    this.listeners.add(listener);
    void this.standing().then((now) => listener(...now));
    return () => this.listeners.delete(listener);
  }
  async waiting(): Promise<Parcel[]> {
    const all = ((await (await store()).getAll("outbox")) as Parcel[]).map(today);
    return all.filter((p) => p.user === this.user).sort((a, b) => a.made - b.made);
  }
  async refused(): Promise<Refusal[]> {
    const all = (await (await store()).getAll("refused")) as Refusal[];
    return all.filter((r) => r.user === this.user && !this.told.has(r.id)).sort((a, b) => a.at - b.at);
  }

  /** Keep, then send. Resolves with the answer; rejects with the refusal. Waits as long as nobody answers. */
  async write<P extends ApiPath, M extends Verb>(
    method: M,
    path: Address<P>,
    body: Body<P, M>,
    label: string,
    id: string = crypto.randomUUID(),
    file?: Blob,
  ): Promise<Answer<P, M>> {
    const parcel: Parcel = {
      id,
      key: crypto.randomUUID(),
      user: this.user,
      method,
      path,
      body,
      label,
      // Two in one breath keep their order.
      made: (this.made = Math.max(Date.now(), this.made + 1)),
      offset: this.offset,
      failed: 0,
      after: 0,
      ...(file ? { file } : {}),
    };
    const outcome = new Promise<Outcome>((resolve) => this.waiters.set(id, resolve));
    await (await store()).put("outbox", parcel);
    void this.flush();
    const told = await outcome;
    if (!told.ok) throw told.error;
    return told.answer as Answer<P, M>;
  }

  async forget(id: string) {
    await (await store()).delete("outbox", id);
    await this.tell();
  }
  /** Seen, and not wanted any more. */
  async putAside(id: string) {
    await (await store()).delete("refused", id);
    await this.tell();
  }

  /** He did not show that it is he: what asked for it is not sent, and its page says so. */
  async declined() {
    const said = "Not sent: you did not show that it is you.";
    for (const parcel of await this.waiting())
      if (this.asked.delete(parcel.id))
        await this.settle(parcel, { ok: false, error: new ApiError(403, "declined", said) });
    void this.flush();
  }

  async flush(): Promise<void> {
    if (this.busy || this.paused || !this.user) return;
    this.busy = true;
    clearTimeout(this.timer);
    try {
      await alone("outbox", () => this.round());
    } finally {
      this.busy = false;
      await this.tell();
    }
    if (!this.paused && (await this.waiting()).length > 0)
      this.timer = setTimeout(() => void this.flush(), RETRY_MS);
  }

  /** Everything that waits, in its order. */
  private async round() {
    const held = new Set<string>();
    for (const parcel of await this.waiting()) {
      // Whoever is signed in may have changed since the last one went.
      if (this.paused || parcel.user !== this.user) break;
      if (this.asked.has(parcel.id)) held.add(lane(parcel));
      if (held.has(lane(parcel))) continue;
      await this.tell();
      const told = parcel.after > Date.now() ? "kept" : await this.deliver(parcel);
      if (told === "away") break;
      if (told === "kept") held.add(lane(parcel));
    }
  }

  /** `away`: nobody answers, the rest waits too. `kept`: the server failed over this one; others may go. */
  private async deliver(parcel: Parcel): Promise<"settled" | "kept" | "away"> {
    try {
      const head = {
        "Idempotency-Key": parcel.key,
        "Device-Clock-Offset": String(Math.round(parcel.offset)),
      };
      const answer = parcel.file
        ? await sendFile(parcel.path, parcel.body as Record<string, string>, parcel.file, head)
        : await send(parcel.method, parcel.path, parcel.body, undefined, head);
      await this.settle(parcel, { ok: true, answer });
      return "settled";
    } catch (error) {
      const refusal = error instanceof ApiError ? error : new ApiError(0, "failed", String(error));
      if (refusal.status === 401) {
        this.paused = true;
        return "away";
      }
      if (refusal.away) return "away";
      if (refusal.code === "ask_again") {
        this.asked.add(parcel.id);
        return "kept";
      }
      if (refusal.again) {
        const wait = Math.min(LONGEST_MS, RETRY_MS * 2 ** parcel.failed);
        await this.keep({ ...parcel, failed: parcel.failed + 1, after: Date.now() + wait });
        return "kept";
      }
      await this.settle(parcel, { ok: false, error: refusal });
      return "settled";
    }
  }
  /** Unless another was put in its place meanwhile. */
  private async keep(parcel: Parcel) {
    const waiting = (await store()).transaction("outbox", "readwrite").store;
    const there = (await waiting.get(parcel.id)) as Parcel | undefined;
    if (there && today(there).key === parcel.key) await waiting.put(parcel);
  }
  private async settle(parcel: Parcel, outcome: Outcome) {
    const db = await store();
    // The refusal is on the device before the parcel is gone: at no moment is there neither.
    const work = db.transaction(["outbox", "refused"], "readwrite");
    const there = (await work.objectStore("outbox").get(parcel.id)) as Parcel | undefined;
    const mine = there !== undefined && today(there).key === parcel.key;
    if (mine) await work.objectStore("outbox").delete(parcel.id);
    const refused = work.objectStore("refused");
    // Mended and sent again from the page that told of it: the refusal has been seen.
    const seen = (old: Refusal) =>
      old.id === parcel.id ||
      (this.told.has(old.id) && old.method === parcel.method && old.path === parcel.path);
    for (const old of (await refused.getAll()) as Refusal[])
      if (outcome.ok && seen(old)) await refused.delete(old.id);
    if (!outcome.ok) {
      if (this.waiters.has(parcel.id)) this.told.add(parcel.id);
      const { id, user, label, method, path, body } = parcel;
      await refused.put({
        id,
        user,
        label,
        method,
        path,
        body,
        message: outcome.error.message,
        at: Date.now(),
      } satisfies Refusal);
    }
    await work.done;
    if (!mine && there) return;
    this.answered(parcel.id, outcome);
    const { id, key } = parcel;
    if (outcome.ok) this.tellTabs({ id, key, answer: outcome.answer });
    else {
      const { status, code, message, problems } = outcome.error;
      this.tellTabs({ id, key, refused: { status, code, message, problems } });
    }
  }
  private answered(id: string, outcome: Outcome) {
    const waiter = this.waiters.get(id);
    this.waiters.delete(id);
    waiter?.(outcome);
  }
  private async tell() {
    const now = await this.standing();
    this.listeners.forEach((l) => l(...now));
  }
  private async standing(): Promise<Parameters<Listener>> {
    const [waiting, refused] = await Promise.all([this.waiting(), this.refused()]);
    return [waiting, refused, waiting.filter((p) => this.asked.has(p.id))];
  }
}

export const outbox = new Outbox();
