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
import { useSaving } from "../../logbook";
import type { SheetProps } from "./AlignmentPage";
import { entriesOf, hasFigures, held, type Body, type Figure } from "./logic";

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

export function useVisit({ set, rules, known, mode, record, start }: SheetProps) {
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
  const sheet = useOpenSheet<Body>("alignment", {
    user: me.username,
    setId: set.id,
    tag: set.tag,
    apart,
    start: first,
    now,
  });
  const draft = useDraft<Draft>(`${me.username}:${set.id}:alignment:typed:${apart}`, begin);
  const saving = useSaving(set.id);
  // Nothing typed yet: it would be of the moment this page was opened.
  const [opened] = useState(() => now().toISOString());
  const typed = draft.value.body;
  const standing = useMemo(() => ({ ...known, ...held(sheet.entries) }), [known, sheet.entries]);
  const fresh = useMemo(
    (): Body[] => entriesOf({ ...known, ...pickMethod(standing), ...typed }, held(sheet.entries)),
    [known, sheet.entries, standing, typed],
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
        body: b,
      })),
    ];
  }, [sheet.entries, fresh, draft.value.begun, draft.value.tries, opened]);
  const { answer, before, error, ask } = useEvaluation<Schemas["ShownAlignmentView"]>("alignment", {
    set_id: set.id,
    corrects: record?.id ?? null,
    entries: live,
  });

  // What nobody has said is as the visit stands, by the core's word.
  const reading = answer?.view.passes.at(-1);
  const taken =
    hasFigures(typed) && reading && !sheet.entries.some((e) => e.uuid === reading.uuid)
      ? reading.taken
      : answer?.view.defaults.taken;
  const body: Body = { taken: (taken as Body["taken"]) ?? null, ...standing, ...typed };
  const change = (next: Body) =>
    draft.change((d) => ({ ...d, body: { ...d.body, ...next }, begun: d.begun || now().toISOString() }));
  const unitOf = (name: Figure) =>
    body[name]?.unit || me.units[rules[name]?.dimension ?? ""] || rules[name]?.unit || "";
  const type = (name: Figure, text: string, unit = unitOf(name)) =>
    change({ [name]: text ? { text, unit } : null });
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
  return {
    body,
    answer,
    before,
    error,
    ask,
    type,
    change,
    unitOf,
    writes,
    save,
    leave: () => saving.leave(sheet.sheet, draft.value.reason, `${set.tag}, alignment left`, over),
    sending: saving.sending,
    say,
    refusal: saving.refusal ?? sheet.refusal,
    late: sheet.late,
    entries: sheet.entries,
    any: live.length > 0 && (hasFigures(typed) || sheet.entries.length > 0),
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
    reason: draft.value.reason,
    setReason: (reason: string) => draft.change((d) => ({ ...d, reason })),
    drawnUp: answer?.view.defaults.taken === "as_left",
    others:
      sheet.by && sheet.by !== me.full_name && sheet.entries.length > 0
        ? `${sheet.by} began this visit: you write on the same sheet.`
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
