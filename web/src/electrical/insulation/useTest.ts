/** The test's open sheet: what is kept, what is typed and not kept yet, and what a hand does to both. */
import { useMemo, useState } from "react";
import {
  deviceName,
  keptFields,
  newest,
  useDraft,
  useMe,
  useOpenSheet,
  useSession,
  type Entered,
  type Schemas,
} from "../../base";
import { handOfRecord, useNamed } from "../../instruments";
import type { Given } from "../../safety";
import { nothingPending, type Pending } from "./fields";
import { clockOf, rowsOf, type Body, type Entry, type Leg, type Mark, type SetupFigure } from "./logic";

interface Marked {
  "x-marks"?: Mark[];
  $defs?: Record<string, Marked>;
}
/** When a test is read, from whichever model of the entry says them. */
const marksOf = (schema: unknown): Mark[] =>
  Object.values((schema as Marked).$defs ?? {}).find((m) => m["x-marks"])?.["x-marks"] ?? [];
/** The figures of the setup, as they stand on the sheet. */
export const SETUP: [SetupFigure, string][] = [
  ["test_volts", "test voltage, DC"],
  ["ceiling", "tester range up to"],
  ["winding", "winding temp."],
  ["ambient", "ambient temp."],
  ["humidity", "humidity, RH"],
];
export const isSetup = (name: string): name is SetupFigure => SETUP.some(([figure]) => figure === name);
const NOTHING: Pending & { leg: Leg; reason: string } = { ...nothingPending, leg: "all", reason: "" };

/** A record's facts as entries again: the start of a correction, or of a try in pencil. */
function entriesOf(record: Schemas["RecordOut"]): Entry[] {
  const body = record.body as { setup?: Body; readings?: Body[] };
  const entry = (b: Body): Entry => ({
    uuid: crypto.randomUUID(),
    taken_at: record.taken_at,
    device: deviceName(),
    instruments: handOfRecord(record.read_with),
    body: b,
  });
  return [
    entry({ kind: "setup", ...body.setup }),
    ...(body.readings ?? []).map((r) => entry({ kind: "reading", ...r })),
  ];
}

/** The open sheet of the test, with what is typed and not kept yet. */
export function useTest(given: Given) {
  const { set, mode, record } = given;
  const me = useMe();
  const { now } = useSession();
  const [start] = useState(() => (record ? entriesOf(record) : []));
  const apart = record ? `${mode}${record.id}` : "";
  const named = useNamed(set.site_id, record);
  const sheet = useOpenSheet("insulation", {
    hand: named.hand,
    user: me.username,
    setId: set.id,
    tag: set.tag,
    apart,
    start,
    now,
  });
  const draft = useDraft(`${me.username}:${set.id}:insulation:${apart || sheet.sheet}`, NOTHING, true);
  const pending = draft.value;
  const kept = useMemo(() => keptFields(given.schema), [given.schema]);
  const body: Body = newest(sheet.entries, kept.keys());
  const rows = rowsOf(sheet.entries);
  const clock = clockOf(sheet.entries);
  const running = clock !== null && clock.endedAt === null;
  const leg: Leg = running ? clock.leg : pending.leg;
  const marks = marksOf(given.schema);
  const change = (more: Partial<typeof NOTHING>) => draft.change((d) => ({ ...d, ...more }));
  const commit = (name: SetupFigure) => {
    const typed = pending.setup[name];
    if (!typed) return;
    draft.change((d) => {
      const rest = { ...d.setup };
      delete rest[name];
      return { ...d, setup: rest };
    });
    const old = body[name];
    if (typed.text.trim() && (old?.text !== typed.text || old.unit !== typed.unit))
      sheet.add({ kind: "setup", [name]: typed });
  };
  const type = (name: string, next: Entered | null) => {
    const typed = next ?? { text: "", unit: entered(name)?.unit ?? "" };
    if (name === "second") change({ second: typed.text });
    else if (name === "ohms")
      draft.change((d) => ({
        ...d,
        ohms: typed,
        firstKey: typed.text ? d.firstKey || now().toISOString() : "",
      }));
    else draft.change((d) => ({ ...d, setup: { ...d.setup, [name]: typed } }));
  };
  const entered = (name: string): Entered | null | undefined => {
    if (name === "second") return pending.second ? { text: pending.second, unit: "s" } : null;
    if (name === "ohms") return pending.ohms;
    return isSetup(name) ? (pending.setup[name] ?? body[name]) : null;
  };
  /** The reading in hand goes on the sheet: at the second of its first key, or at the one that is said. */
  const take = () => {
    const typed = pending.ohms;
    if (!typed?.text.trim()) return;
    const seconds = running ? null : Number(pending.second.replace(",", "."));
    if (!running && (pending.second.trim() === "" || Number.isNaN(seconds))) {
      document.getElementById("f-second")?.focus();
      return;
    }
    const at = running && pending.firstKey ? new Date(pending.firstKey) : now();
    sheet.add({ kind: "reading", leg, ohms: typed, ...(seconds === null ? {} : { seconds }) }, at);
    const later = marks.find((m) => m.second > (seconds ?? 0));
    draft.change((d) => ({
      ...d,
      ohms: { text: "", unit: typed.unit },
      firstKey: "",
      second: seconds !== null && later ? String(later.second) : d.second,
    }));
  };
  const over = () => {
    sheet.done();
    draft.done(NOTHING);
  };
  return {
    sheet,
    named,
    pending,
    change,
    body,
    rows,
    clock,
    running,
    leg,
    marks,
    commit,
    type,
    entered,
    take,
    over,
  };
}
