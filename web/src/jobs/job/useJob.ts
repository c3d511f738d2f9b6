/** The open job of a set: what is typed at its steps and not said yet, what is said, and the core's answer. */
import { useCallback, useMemo, useState } from "react";
import {
  useDraft,
  useEvaluation,
  useMe,
  useOpenSheet,
  useSession,
  type Entered,
  type EntryBody,
  type Schemas,
} from "../../base";
import { useNamed } from "../../instruments";
import { useSaving } from "../../logbook";
import { useBench, type Given } from "../../safety";

export type Body = EntryBody<"job">;
export type View = Schemas["ShownJobView"];
export type Step = View["steps"][number];
type Typed = Record<string, Entered | string | null | undefined>;
interface Draft {
  typed: Typed;
  reason: string;
}
const EMPTY: Draft = { typed: {}, reason: "" };

/** The figure of a step, as a field of its own. */
export const figureOf = (step: string) => `figure:${step}`;
export const isFigure = (x: unknown): x is Entered => typeof x === "object" && x !== null && "text" in x;

/** `elsewhere`: a bench is worked in place of the step; what is put on record then is its sheet, not the job. */
export function useJob(given: Given, elsewhere: boolean) {
  const { set, mode } = given;
  const me = useMe();
  const { now } = useSession();
  const named = useNamed(set.site_id, null);
  const sheet = useOpenSheet("job", {
    hand: named.hand,
    user: me.username,
    setId: set.id,
    tag: set.tag,
    now,
  });
  const draft = useDraft<Draft>(`${me.username}:${set.id}:job:${sheet.sheet}`, EMPTY, true);
  const saving = useSaving(set.id);
  const [opened] = useState(() => now().toISOString());
  const asked = useMemo(
    () => ({ set_id: set.id, corrects: null, entries: sheet.entries }),
    [set.id, sheet.entries],
  );
  const told = useEvaluation("job", asked, given.case);
  const { typed } = draft.value;
  const { change } = draft;
  const put = useCallback(
    (name: string, value: Entered | string | null) =>
      change((d) => ({ ...d, typed: { ...d.typed, [name]: value } })),
    [change],
  );
  const forget = useCallback(
    (...names: string[]) =>
      change((d) => ({
        ...d,
        typed: Object.fromEntries(Object.entries(d.typed).filter(([k]) => !names.includes(k))),
      })),
    [change],
  );
  const say = (body: Body) => sheet.add(body);
  const view = told.answer?.view ?? null;
  const rules = useMemo(() => {
    const out = { ...given.rules };
    for (const s of view?.steps ?? [])
      if (s.figure)
        out[figureOf(s.id)] = {
          label: s.figure.label,
          dimension: "",
          units: s.figure.units,
          unit: s.figure.units[0] ?? "",
          help: "",
        };
    return out;
  }, [given.rules, view]);
  const save = async () => {
    if (elsewhere || set.may === "viewer" || sheet.entries.length === 0) return;
    const request = {
      set_id: set.id,
      sheet: sheet.sheet,
      corrects: null,
      reason: "",
      seen: told.answer && !told.before ? told.answer.verdict : null,
      entries: sheet.entries,
    };
    await saving.put("job", request, `${set.tag} overhaul`, `${sheet.sheet}-record`, over);
  };
  const over = () => {
    sheet.done();
    draft.done(EMPTY);
  };
  const tools = useBench<View>(
    { ...given, rules },
    {
      order: [],
      entered: (name) => (isFigure(typed[name]) ? typed[name] : null),
      put: (name, next) => put(name, next),
      told,
      named,
      any: sheet.entries.length > 0,
      save,
      sending: saving.sending,
      refusal: saving.refusal ?? sheet.refusal,
      reason: { value: draft.value.reason, set: (reason) => draft.change((d) => ({ ...d, reason })) },
      sheet: sheet.sheet,
      photo: sheet.entries.at(-1)?.uuid ?? "",
    },
  );
  return {
    tools,
    view,
    told,
    typed,
    put,
    forget,
    say,
    undo: (uuid: string) => say({ kind: "undo", undoes: uuid }),
    entries: sheet.entries,
    late: sheet.late,
    opened,
    mode,
    others: sheet.by && sheet.by !== me.full_name && sheet.mine === 0 ? sheet.by : "",
    leave: () =>
      saving.leave(sheet.sheet, draft.value.reason, `${set.tag}, overhaul closed without record`, over),
    reason: draft.value.reason,
    setReason: (reason: string) => draft.change((d) => ({ ...d, reason })),
  };
}
export type Job = ReturnType<typeof useJob>;
