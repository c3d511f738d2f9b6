/** A sheet that is one entry: typed, kept on the device at every key, put on record whole. */
import { useState } from "react";
import {
  ApiError,
  deviceName,
  useDraft,
  useEvaluation,
  useMe,
  useSession,
  type BenchName,
  type EntryBody,
  type Entered,
  type ShownOf,
} from "../../base";
import { useNamed } from "../../instruments";
import { useSaving } from "../../logbook";
import type { Given, Own } from "./tools";

interface Draft<B> {
  sheet: string;
  entry: string;
  body: B;
  /** What still stands as it was last time, not touched yet. */
  carried: string[];
  /** When the first figure was typed, by the server's clock. */
  begun: string;
  reason: string;
}
interface Sheet {
  /** The figures that make it worth putting on record. */
  figures: readonly string[];
  /** What is as it was last time until somebody says otherwise. */
  kept: readonly string[];
  /** What else makes it worth it: something said, or read at places of a drawing. */
  also?: (body: Loose) => boolean;
}
type Loose = Record<string, unknown>;
const textOf = (value: unknown): string => (value as Entered | null | undefined)?.text ?? "";

const blank = <B>(body: B, carried: string[] = [], begun = ""): Draft<B> => ({
  sheet: crypto.randomUUID(),
  entry: crypto.randomUUID(),
  body,
  carried,
  begun,
  reason: "",
});
/** The sheet as it opens: the record that is corrected or tried, or what is as it was last time. */
export function opening<B>({ record, case: found }: Given, kept: readonly string[]): Draft<B> {
  if (record) return blank(record.body as B, [], record.taken_at);
  const last: Loose = found.context.last?.body ?? {};
  const carried = kept.filter((name) => last[name] != null);
  return blank(Object.fromEntries(carried.map((name) => [name, last[name]])) as B, carried);
}
export const hasFigures = (body: object, figures: readonly string[]): boolean =>
  figures.some((name) => textOf((body as Loose)[name]).trim() !== "");

/** N: the bench, by whose address its entry, its answer and what is put on record are typed. */
export function useOneEntry<N extends BenchName>(given: Given, { figures, kept, also }: Sheet) {
  type B = EntryBody<N> & { note?: string | null };
  const { set, mode, record } = given;
  const bench = given.bench.name as N;
  const me = useMe();
  const { now } = useSession();
  const [start] = useState(() => opening<B>(given, kept));
  const name = `${me.username}:${set.id}:${bench}:${mode}${record?.id ?? ""}`;
  const draft = useDraft<Draft<B>>(name, start);
  const named = useNamed(set.site_id, record);
  const { body, begun, carried = [] } = draft.value;
  // Nothing typed yet: it would be of the moment this page was opened.
  const [opened] = useState(() => now().toISOString());
  const entry = {
    uuid: draft.value.entry,
    taken_at: begun || opened,
    device: deviceName(),
    instruments: named.hand,
    body,
  };
  const asked = { set_id: set.id, corrects: record?.id ?? null, entries: [entry] };
  const told = useEvaluation(bench, asked, given.case);
  const saving = useSaving(set.id);
  const change = (more: Partial<B>) =>
    draft.change((d) => {
      const next = { ...d.body, ...more };
      // A sheet whose figures were all taken out again begins anew with the next one.
      const goesOn = hasFigures(next, figures) || !hasFigures(d.body, figures);
      return {
        ...d,
        begun: goesOn ? d.begun || now().toISOString() : "",
        body: next,
        carried: (d.carried ?? []).filter((c) => !(c in more)),
      };
    });
  const any = hasFigures(body, figures) || Boolean(also?.(body));
  const save = async () => {
    if (mode === "pencil" || set.may === "viewer" || !any) return;
    const d = draft.value;
    const request = {
      set_id: set.id,
      sheet: d.sheet,
      corrects: record?.id ?? null,
      reason: d.reason,
      seen: told.answer && !told.before ? told.answer.verdict : null,
      entries: [{ ...entry, taken_at: d.begun || now().toISOString() }],
    };
    const label = `${set.tag} ${given.bench.title.toLowerCase()}`;
    const refused = await saving.put(bench, request, label, d.sheet, () => draft.done(opening(given, kept)));
    if (refused instanceof ApiError && refused.code === "sheet_id_used")
      draft.change((old) => ({ ...old, sheet: crypto.randomUUID(), entry: crypto.randomUUID() }));
  };
  const own: Own<ShownOf<N>["view"]> = {
    order: figures,
    entered: (figure) => (body as Loose)[figure] as Entered | null | undefined,
    put: (figure, next) => change({ [figure]: next } as Partial<B>),
    told,
    any,
    named,
    save,
    sending: saving.sending,
    refusal: saving.refusal,
    reason: {
      value: draft.value.reason,
      set: (reason) => draft.change((d) => ({ ...d, reason })),
    },
    note: { value: body.note ?? "", set: (note) => change({ note } as Partial<B>) },
    sheet: draft.value.sheet,
    photo: draft.value.entry,
  };
  return { own, body, change, carried, kept: draft.kept, afresh: () => draft.done(opening(given, kept)) };
}
