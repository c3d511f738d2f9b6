/** One walk down a circuit: the open sheet, the probes and the figure in hand, and the core's answer to both. */
import { useMemo, useState } from "react";
import {
  deviceName,
  useDraft,
  useEvaluation,
  useMe,
  useOpenSheet,
  useSession,
  type Entered,
  type EntryBody,
  type Schemas,
  type SheetEntry,
} from "../../base";
import { handOfRecord, useNamed } from "../../instruments";
import { useSaving } from "../../logbook";
import type { Given, Own } from "../../safety";
import { bareView, type Circuit } from "./edited";
import { GROUND, legOf, rungOf, type View } from "./layout";

export type Body = EntryBody<"circuit">;
export type Quantity = "volts" | "amps" | "ohms";
export interface Stands {
  contactor: string;
  motor: string;
  leads: string;
  meter: string;
}
interface Pair {
  one: string;
  two: string;
}
interface Draft {
  quantity: Quantity;
  figures: Partial<Record<Quantity, Entered | null>>;
  /** Where the user put them; none: where the core would. */
  probes: Pair | null;
  stands: Partial<Stands>;
  begun: string;
  reason: string;
}
/** The set's circuit as this device knows it, until the core has drawn it. */
function bareOf(given: Given): View | null {
  const [kept] = (given.case.extras?.circuit ?? []) as { circuit: Circuit }[];
  return kept ? bareView(kept.circuit) : null;
}
const EMPTY: Draft = { quantity: "volts", figures: {}, probes: null, stands: {}, begun: "", reason: "" };
export const QUANTITIES: [Quantity, string][] = [
  ["volts", "voltage"],
  ["amps", "current"],
  ["ohms", "resistance, dead"],
];

/** A record's readings as entries again: the start of a correction, or of a try in pencil. */
function entriesAgain(record: Schemas["RecordOut"]): SheetEntry<Body>[] {
  const { log = [] } = record.body as { log?: { at: string; body: Body }[] };
  return log.map((e) => ({
    uuid: crypto.randomUUID(),
    taken_at: e.at,
    device: deviceName(),
    instruments: handOfRecord(record.read_with),
    body: e.body,
  }));
}

export function useWalk(given: Given) {
  const { set, mode, record } = given;
  const me = useMe();
  const { now } = useSession();
  const [start] = useState(() => (record ? entriesAgain(record) : []));
  const apart = record ? `${mode}${record.id}` : "";
  const named = useNamed(set.site_id, record);
  const sheet = useOpenSheet("circuit", {
    hand: named.hand,
    user: me.username,
    setId: set.id,
    tag: set.tag,
    apart,
    start,
    now,
  });
  const draft = useDraft<Draft>(`${me.username}:${set.id}:circuit:${apart || sheet.sheet}`, EMPTY, true);
  const saving = useSaving(set.id);
  const [opened] = useState(() => now().toISOString());
  const { quantity, figures, begun } = draft.value;
  const typed = figures[quantity];
  const text = typed?.text.trim() ?? "";
  // What the core said last decides where the probes are while nobody moved them.
  const [said, setSaid] = useState<View | null>(() => bareOf(given));
  const stands = { ...(said?.stands as unknown as Stands | undefined), ...draft.value.stands } as Stands;
  const probes = draft.value.probes ?? placed(said);
  const reading = useMemo(
    (): Body => ({
      kind: "reading",
      one: probes.one,
      ...(quantity === "amps" ? {} : { two: probes.two }),
      [quantity]: typed ?? null,
      contactor: (stands.contactor ?? null) as Body["contactor"],
      motor: (stands.motor ?? null) as Body["motor"],
      leads: (stands.leads ?? null) as Body["leads"],
      meter: (stands.meter ?? null) as Body["meter"],
    }),
    [probes.one, probes.two, quantity, typed, stands.contactor, stands.motor, stands.leads, stands.meter],
  );
  const afterLast = () => {
    const last = sheet.entries.at(-1)?.taken_at;
    return last === undefined ? 0 : Date.parse(last) + 1;
  };
  const live = useMemo((): SheetEntry<Body>[] => {
    if (!text) return sheet.entries;
    const last = sheet.entries.at(-1)?.taken_at;
    const at = Math.max(Date.parse(begun || opened), last === undefined ? 0 : Date.parse(last) + 1);
    const entry = {
      uuid: "typed-0000",
      taken_at: new Date(at).toISOString(),
      device: deviceName(),
      instruments: named.hand,
      body: reading,
    };
    return [...sheet.entries, entry];
  }, [sheet.entries, reading, text, begun, opened, named.hand]);
  const told = useEvaluation(
    "circuit",
    { set_id: set.id, corrects: record?.id ?? null, entries: live },
    given.case,
  );
  const { answer, before } = told;
  // While a figure is typed the probes stay where they are: where next is said once it is entered.
  if (answer && !before && !text && answer.view !== said) setSaid(answer.view);

  const change = (more: Partial<Draft>) => draft.change((d) => ({ ...d, ...more }));
  const next = said?.next ?? null;
  const where = draft.value.probes === null ? next : null;
  const waits = where?.waits && !sameState(where, stands) ? where.waits : null;
  const enter = () => {
    if (!text) return;
    const at = Math.max(Date.parse(begun || now().toISOString()), afterLast());
    sheet.add(reading, new Date(at));
    change({ figures: { ...figures, [quantity]: null }, probes: null, begun: "" });
  };
  const over = () => {
    sheet.done();
    draft.done(EMPTY);
  };
  const noted = [...sheet.entries].reverse().find((e) => e.body.note)?.body.note ?? "";
  const [note, setNote] = useState<string | null>(null);
  const writes = mode !== "pencil" && set.may !== "viewer";
  const save = async () => {
    if (!writes || live.length === 0) return;
    const entries = live.map((e) => (e.uuid.startsWith("typed") ? { ...e, uuid: crypto.randomUUID() } : e));
    if (note !== null && note !== noted)
      entries.push({
        uuid: crypto.randomUUID(),
        taken_at: new Date(Math.max(now().getTime(), afterLast() + 1)).toISOString(),
        device: deviceName(),
        body: { kind: "said", note },
      });
    const request = {
      set_id: set.id,
      sheet: sheet.sheet,
      corrects: record?.id ?? null,
      reason: draft.value.reason,
      seen: answer && !before ? answer.verdict : null,
      entries,
    };
    await saving.put("circuit", request, `${set.tag} circuit`, `${sheet.sheet}-record`, over);
  };
  const own: Own<View> = {
    order: [quantity],
    entered: (name) => figures[name as Quantity],
    put: (name, value) =>
      change({
        figures: { ...figures, [name]: value },
        // The pair is the one that was in hand when the first key was pressed.
        probes: draft.value.probes ?? (value?.text ? probes : null),
        begun: begun || now().toISOString(),
      }),
    onNext: enter,
    nextLabel: () => "Enter reading",
    told,
    named,
    any: live.length > 0,
    save,
    sending: saving.sending,
    refusal: saving.refusal ?? sheet.refusal,
    reason: {
      value: draft.value.reason,
      set: (reason) => change({ reason }),
    },
    note: { value: note ?? noted, set: setNote },
    sheet: sheet.sheet,
    photo: sheet.entries.at(-1)?.uuid ?? "",
  };
  const titles = new Map((said?.rungs ?? []).map((r) => [r.id, r.title]));
  return {
    own,
    view: said,
    quantity,
    probes,
    stands,
    waits,
    next,
    text,
    late: sheet.late,
    entries: sheet.entries,
    others:
      sheet.by && sheet.by !== me.full_name && sheet.entries.length > 0
        ? `${sheet.by} started this walk. Your readings go to the same one.`
        : "",
    titleOf: (point: string) =>
      point === GROUND
        ? "ground"
        : `${titles.get(rungOf(point)) ?? point}, ${said?.legs[legOf(point) - 1] ?? ""}`,
    place: (pair: Pair) => change({ probes: pair }),
    free: () => change({ probes: null }),
    stand: (more: Partial<Stands>) => change({ stands: { ...draft.value.stands, ...more } }),
    read: (q: Quantity) => change({ quantity: q }),
    enter,
    say: (body: Body) => sheet.add({ kind: "said", ...body } as Body),
    keepNote: () => {
      if (note !== null && note !== noted) sheet.add({ kind: "said", note });
      setNote(null);
    },
    undo: (uuid: string) => sheet.add({ kind: "undo", undoes: uuid }),
    leave: () =>
      saving.leave(sheet.sheet, draft.value.reason, `${set.tag}, circuit closed without record`, over),
  };
}
export type Walk = ReturnType<typeof useWalk>;

/** Where the probes stand while nobody put them anywhere: where the core would, else where none is needed. */
function placed(view: View | null): Pair {
  return view?.next ? { one: view.next.one, two: view.next.two } : { one: "", two: "" };
}
const sameState = (then: Stands, now: Stands) => then.contactor === now.contactor && then.meter === now.meter;
