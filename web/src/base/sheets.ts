/** A sheet that stays open: entries kept on the device at once, sent one by one, merged with those of other devices. */
import { useCallback, useEffect, useMemo, useState } from "react";
import type { Address, Body, EntriesPath, EntryBody, SharedBench } from "./address";
import type { Hand } from "./hand";
import { ApiError, type Schemas } from "./client";
import { readDraft, useElsewhere, writeDraft } from "./drafts";
import { outbox } from "./outbox";
import { useGet } from "./queries";

export interface SheetEntry<B> {
  uuid: string;
  taken_at: string;
  device: string;
  /** What read it, by dimension: the number of the instrument. */
  instruments?: Hand;
  body: B;
}
export interface LocalSheet<B> {
  sheet: string;
  entries: SheetEntry<B>[];
}
type ServerSheet = Schemas["SheetOut"];

export function deviceName(): string {
  const held = localStorage.getItem("hurbin-device");
  if (held) return held;
  const made = `device-${crypto.randomUUID().slice(0, 8)}`;
  localStorage.setItem("hurbin-device", made);
  return made;
}
const order = <B>(a: SheetEntry<B>, b: SheetEntry<B>) =>
  a.taken_at === b.taken_at ? a.uuid.localeCompare(b.uuid) : Date.parse(a.taken_at) - Date.parse(b.taken_at);

/** Mine and theirs, each once, in the order in which they count. */
export function mergeEntries<B>(mine: SheetEntry<B>[], theirs: SheetEntry<B>[]): SheetEntry<B>[] {
  const all = new Map(theirs.map((e) => [e.uuid, e]));
  mine.forEach((e) => all.set(e.uuid, e));
  return [...all.values()].sort(order);
}
const asEntries = <B>(s: ServerSheet): SheetEntry<B>[] =>
  s.entries
    .filter((e) => !e.late)
    .map((e) => ({
      uuid: e.uuid,
      taken_at: e.taken_at,
      device: e.device,
      instruments: e.instruments,
      body: e.body as B,
    }));

interface Options<B> {
  user: string;
  setId: number;
  tag: string;
  /** Not shared while correcting or in pencil: these entries stay here until they are put on record. */
  apart?: string;
  start?: SheetEntry<B>[];
  /** What is entered from now on is read with. */
  hand: Hand;
  now: () => Date;
}
/** The open sheet of a set: what this device holds and what the others have sent. */
export function useOpenSheet<N extends SharedBench>(bench: N, options: Options<EntryBody<N>>) {
  type B = EntryBody<N>;
  const { user, setId, tag, apart = "", start, hand, now } = options;
  const key = `sheet:${user}:${setId}:${bench}:${apart}`;
  const fresh = useCallback(
    (): LocalSheet<B> => ({ sheet: crypto.randomUUID(), entries: start ?? [] }),
    [start],
  );
  const [local, setLocal] = useState<LocalSheet<B>>(() => {
    const held = readDraft<LocalSheet<B>>(key);
    if (held) return held;
    // Kept from the first: what is typed before the first entry belongs to this sheet, after a reload as well.
    const made = fresh();
    writeDraft(key, made);
    return made;
  });
  useElsewhere<LocalSheet<B>>(key, (told) => setLocal(told ?? fresh()));
  const [refusal, setRefusal] = useState<ApiError | null>(null);
  /** The sheet was closed meanwhile: what was entered since is kept beside it. */
  const [late, setLate] = useState<ServerSheet | null>(null);
  const open = useGet(`/api/v1/benches/${bench}/sheets`, apart ? null : { set_id: setId });
  const sheets = useMemo(() => (open.data ?? []) as ServerSheet[], [open.data]);
  const untouched = local.entries.length === 0;
  // Nothing of mine yet and somebody's sheet stands open: take part in theirs.
  const theirs = sheets.find((s) => s.uuid === local.sheet) ?? (untouched ? sheets[0] : undefined);
  const sheet = theirs?.uuid ?? local.sheet;
  const entries = useMemo(
    () => mergeEntries(local.entries, theirs ? asEntries<B>(theirs) : []),
    [local.entries, theirs],
  );

  const send = useCallback(
    (to: string, e: SheetEntry<B>) => {
      outbox
        .write(
          "POST",
          `/api/v1/benches/${bench}/sheets/${to}/entries` as Address<EntriesPath>,
          { set_id: setId, entries: [e] } as Body<EntriesPath, "POST">,
          `${tag}, entry`,
          e.uuid,
        )
        .then((kept) => {
          if (kept?.entries?.some((x) => x.uuid === e.uuid && x.late)) setLate(kept);
        })
        .catch((error: unknown) => {
          if (error instanceof ApiError) setRefusal(error);
        });
    },
    [bench, setId, tag],
  );
  const add = useCallback(
    (body: B, at: Date = now()) => {
      const entry: SheetEntry<B> = {
        uuid: crypto.randomUUID(),
        taken_at: at.toISOString(),
        device: deviceName(),
        instruments: hand,
        body,
      };
      setLocal((old) => {
        const next = { sheet, entries: [...old.entries, entry] };
        writeDraft(key, next);
        return next;
      });
      setRefusal(null);
      if (!apart) send(sheet, entry);
      return entry;
    },
    [apart, hand, key, now, send, sheet],
  );
  const done = useCallback(() => {
    const next: LocalSheet<B> = { sheet: crypto.randomUUID(), entries: [] };
    writeDraft(key, next);
    setLocal(next);
  }, [key]);
  const join = useCallback(
    (uuid: string) => {
      const next: LocalSheet<B> = { sheet: uuid, entries: [] };
      writeDraft(key, next);
      setLocal(next);
    },
    [key],
  );
  useEffect(() => {
    const heard = () => void open.refetch();
    window.addEventListener("online", heard);
    return () => window.removeEventListener("online", heard);
  }, [open]);
  return {
    sheet,
    entries,
    add,
    done,
    join,
    refusal,
    late,
    others: sheets.filter((s) => s.uuid !== sheet),
    mine: local.entries.length,
    by: theirs?.opened_by ?? "",
  };
}
