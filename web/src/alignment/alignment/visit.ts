/** One visit: what is typed and not kept yet (pencil), what is kept (the open sheet), and the core's answer to both. */
import { useMemo, useState } from "react";
import {
  deviceName,
  useDraft,
  useEvaluation,
  useMe,
  useOpenSheet,
  useSession,
  type Schemas,
  type SheetEntry,
} from "../../base";
import { handOfRecord, useNamed } from "../../instruments";
import { useSaving } from "../../logbook";
import type { Given, Own } from "../../safety";
import { carried, entriesOf, fieldsOf, hasFigures, held, order, type Body, type Figure } from "./logic";

interface Draft {
  body: Body;
  tries: Body;
  begun: string;
  reason: string;
}
/** The first moment after what is on the sheet already. */
const afterLast = (entries: SheetEntry<Body>[]): number => {
  const last = entries.at(-1)?.taken_at;
  return last === undefined ? 0 : Date.parse(last) + 1;
};
const EMPTY: Draft = { body: {}, tries: {}, begun: "", reason: "" };

/** A record's visit as entries again: the start of a correction, or of a try in pencil. */
function entriesAgain(record: Schemas["RecordOut"]): SheetEntry<Body>[] {
  const body = record.body as Body & { log?: { at: string; body: Body }[] };
  const log = body.log ?? [{ at: record.taken_at, body }];
  return log.map((e) => ({
    uuid: crypto.randomUUID(),
    taken_at: e.at,
    device: deviceName(),
    instruments: handOfRecord(record.read_with),
    body: e.body,
  }));
}

export function useVisit(given: Given) {
  const { set, mode, record } = given;
  const last = given.case.context.last?.body;
  const fields = useMemo(() => fieldsOf(given.schema), [given.schema]);
  const known = useMemo((): Body => (record ? {} : carried(last, fields)), [record, last, fields]);
  const [start] = useState(() => (record ? entriesAgain(record) : []));
  const me = useMe();
  const { now } = useSession();
  const apart = record ? `${mode}${record.id}` : "";
  // A record's last pass is typed again; what came before it stays as it was.
  const [begin] = useState<Draft>(() => ({
    ...EMPTY,
    body: record ? { ...start.at(-1)?.body, kind: undefined } : {},
    begun: record?.taken_at ?? "",
  }));
  const [first] = useState(() => (record ? start.slice(0, -1) : []));
  const named = useNamed(set.site_id, record);
  const sheet = useOpenSheet("alignment", {
    hand: named.hand,
    user: me.username,
    setId: set.id,
    tag: set.tag,
    apart,
    start: first,
    now,
  });
  const draft = useDraft<Draft>(`${me.username}:${set.id}:alignment:${apart || sheet.sheet}`, begin, true);
  const saving = useSaving(set.id);
  // Nothing typed yet: it would be of the moment this page was opened.
  const [opened] = useState(() => now().toISOString());
  const typed = draft.value.body;
  const said = useMemo(() => held(sheet.entries, fields), [sheet.entries, fields]);
  const standing = useMemo(() => ({ ...known, ...said }), [known, said]);
  const fresh = useMemo(
    (): Body[] => entriesOf({ ...known, ...pickMethod(standing), ...typed }, said, fields),
    [known, standing, typed, said, fields],
  );
  const live = useMemo((): SheetEntry<Body>[] => {
    const base = Math.max(Date.parse(draft.value.begun || opened), afterLast(sheet.entries));
    const tries = Object.keys(draft.value.tries).length
      ? [{ kind: "try", ...draft.value.tries } as Body]
      : [];
    return [
      ...sheet.entries,
      ...[...fresh, ...tries].map((b, i) => ({
        uuid: `typed-${String(i).padStart(4, "0")}`,
        taken_at: new Date(base + i).toISOString(),
        device: deviceName(),
        instruments: named.hand,
        body: b,
      })),
    ];
  }, [sheet.entries, fresh, draft.value.begun, draft.value.tries, opened, named.hand]);
  const asked = { set_id: set.id, corrects: record?.id ?? null, entries: live };
  const told = useEvaluation("alignment", asked, given.case);
  const { answer, before } = told;

  // What nobody has said is as the visit stands, by the core's word.
  const reading = answer?.view.passes.at(-1);
  const taken =
    hasFigures(typed) && reading && !sheet.entries.some((e) => e.uuid === reading.uuid)
      ? reading.taken
      : answer?.view.defaults.taken;
  const body: Body = { taken: (taken as Body["taken"]) ?? null, ...standing, ...typed };
  const change = (next: Body) =>
    draft.change((d) => ({ ...d, body: { ...d.body, ...next }, begun: d.begun || now().toISOString() }));
  const writes = mode !== "pencil" && set.may !== "viewer";
  /** When what is typed counts: since its first key, and after whatever is on the sheet already. */
  const after = () =>
    Math.max(Date.parse(draft.value.begun || now().toISOString()), afterLast(sheet.entries));
  const keepTyped = () => {
    const at = after();
    fresh.forEach((b, i) => sheet.add(b, new Date(at + i)));
    draft.change((d) => ({ ...d, body: pickMethod(d.body), tries: {}, begun: "" }));
  };
  const say = (b: Body) => {
    if (fresh.length) keepTyped();
    sheet.add(b, new Date(now().getTime() + fresh.length + 1));
  };
  const over = () => {
    sheet.done();
    draft.done(EMPTY);
  };
  const save = async () => {
    if (!writes || live.length === 0) return;
    const mine = fresh.map((b, i) => ({
      uuid: crypto.randomUUID(),
      taken_at: new Date(after() + i).toISOString(),
      device: deviceName(),
      instruments: named.hand,
      body: b,
    }));
    const request = {
      set_id: set.id,
      sheet: sheet.sheet,
      corrects: record?.id ?? null,
      reason: draft.value.reason,
      seen: answer && !before ? answer.verdict : null,
      entries: [...sheet.entries, ...mine],
    };
    await saving.put("alignment", request, `${set.tag} alignment`, `${sheet.sheet}-record`, over);
  };
  const own: Own<Schemas["ShownAlignmentView"]> = {
    order: order(body.method ?? "straightedge"),
    entered: (name) => body[name as Figure],
    put: (name, next) => change({ [name]: next }),
    told,
    named,
    any: live.length > 0 && (hasFigures(typed) || sheet.entries.length > 0),
    save,
    sending: saving.sending,
    refusal: saving.refusal ?? sheet.refusal,
    reason: {
      value: draft.value.reason,
      set: (reason) => draft.change((d) => ({ ...d, reason })),
    },
    note: { value: body.note ?? "", set: (note) => change({ note }) },
    sheet: sheet.sheet,
    photo: sheet.entries.at(-1)?.uuid ?? "",
  };
  return {
    own,
    body,
    change,
    leave: () =>
      saving.leave(sheet.sheet, draft.value.reason, `${set.tag}, alignment closed without record`, over),
    say,
    late: sheet.late,
    entries: sheet.entries,
    hasPass: hasFigures(typed),
    keepPass: keepTyped,
    moved: (packs: Body) => {
      const { pushed_front, pushed_rear } = typed;
      say({
        kind: "moved",
        ...packs,
        ...(body.van ? { van: body.van } : {}),
        ...(pushed_front ? { pushed_front } : {}),
        ...(pushed_rear ? { pushed_rear } : {}),
      });
      draft.change((d) => ({ ...d, body: { ...d.body, pushed_front: null, pushed_rear: null } }));
    },
    undo: (uuid: string) => sheet.add({ kind: "undo", undoes: uuid }),
    tries: draft.value.tries,
    setTries: (tries: Body) => draft.change((d) => ({ ...d, tries })),
    drawnUp: answer?.view.defaults.taken === "as_left",
    others:
      sheet.by && sheet.by !== me.full_name && sheet.entries.length > 0
        ? `${sheet.by} started this alignment. Your entries go to the same one.`
        : "",
  };
}
function pickMethod(body: Body): Body {
  const { method, carried_by, face_touches, temperature, ...rest } = body;
  void rest;
  return Object.fromEntries(
    Object.entries({ method, carried_by, face_touches, temperature }).filter(([, v]) => v != null),
  ) as Body;
}
