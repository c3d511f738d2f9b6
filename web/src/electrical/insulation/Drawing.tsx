/** The insulation test: prepared, timed, judged while it runs; what was typed afterwards counts as well. */
import { useMemo, useState } from "react";
import { Link } from "react-router";
import {
  Complaint,
  deviceName,
  KeptLate,
  keptFields,
  newest,
  useDraft,
  useEvaluation,
  useMe,
  useNarrow,
  useOpenSheet,
  useSession,
  type Entered,
  type Schemas,
} from "../../base";
import { useSaving } from "../../logbook";
import { useSites, type SetOut } from "../../plant";
import {
  Bench,
  Derived,
  Gate,
  Photo,
  ProofPanel,
  PutOnRecord,
  Reason,
  Sending,
  useBench,
  useOffer,
  useSafeSheet,
  Verdicts,
  type Given,
} from "../../safety";
import { CurvePaper } from "./CurvePaper";
import { nothingPending, SetupField, SetupSentence, type Pending } from "./fields";
import {
  clockOf,
  LEG_WORD,
  rowsOf,
  type Body,
  type Entry,
  type Leg,
  type Mark,
  type SetupFigure,
} from "./logic";
import { ReadingLine } from "./ReadingLine";
import { Readings } from "./Readings";
import { Stopwatch } from "./Stopwatch";
import { useLive, useWake } from "./useLive";
import { WindingDrawing } from "./WindingDrawing";
import css from "./drawing.module.scss";

type View = Schemas["ShownInsulationView"];
interface Marked {
  "x-marks"?: Mark[];
  $defs?: Record<string, Marked>;
}
/** When a test is read, from whichever model of the entry says them. */
const marksOf = (schema: unknown): Mark[] =>
  Object.values((schema as Marked).$defs ?? {}).find((m) => m["x-marks"])?.["x-marks"] ?? [];
const SECOND = { label: "Second of the reading", dimension: "", units: ["s"], unit: "s", help: "" };
const isSetup = (name: string): name is SetupFigure => SETUP.some(([figure]) => figure === name);
const NOTHING: Pending & { leg: Leg; reason: string } = { ...nothingPending, leg: "all", reason: "" };

/** A record's facts as entries again: the start of a correction, or of a try in pencil. */
function entriesOf(record: Schemas["RecordOut"]): Entry[] {
  const body = record.body as { setup?: Body; readings?: Body[] };
  const entry = (b: Body): Entry => ({
    uuid: crypto.randomUUID(),
    taken_at: record.taken_at,
    device: deviceName(),
    body: b,
  });
  return [
    entry({ kind: "setup", ...body.setup }),
    ...(body.readings ?? []).map((r) => entry({ kind: "reading", ...r })),
  ];
}

/** The open sheet of the test, with what is typed and not kept yet. */
function useTest(given: Given) {
  const { set, mode, record } = given;
  const me = useMe();
  const { now } = useSession();
  const [start] = useState(() => (record ? entriesOf(record) : []));
  const apart = record ? `${mode}${record.id}` : "";
  const sheet = useOpenSheet("insulation", {
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

export function Drawing({ given: plain }: { given: Given }) {
  const given = { ...plain, rules: { ...plain.rules, second: SECOND } };
  const { set, mode, record } = given;
  const { now } = useSession();
  const narrow = useNarrow();
  const zone = useSites().data?.find((s) => s.id === set.site_id)?.time_zone ?? "UTC";
  const t = useTest(given);
  const { sheet, pending, body, rows, clock, running, leg } = t;
  const saving = useSaving(set.id);
  const right = set.may !== "viewer";
  const control = set.components.find((c) => c.slot === "control")?.kind ?? "";
  const live = useLive(sheet.entries, pending);
  const asked = { set_id: set.id, corrects: record?.id ?? null, entries: live };
  const told = useEvaluation("insulation", asked, given.case);
  const save = async () => {
    if (mode === "pencil" || !right || saving.sending || rows.length === 0) return;
    if (pending.ohms?.text.trim()) t.take();
    const request = {
      set_id: set.id,
      sheet: sheet.sheet,
      corrects: record?.id ?? null,
      reason: pending.reason,
      seen: told.answer && !told.before ? told.answer.verdict : null,
      entries: sheet.entries,
    };
    await saving.put("insulation", request, `${set.tag} insulation test`, `${sheet.sheet}-record`, t.over);
  };
  const leave = async () => {
    const why = pending.reason.trim();
    if (!why) return document.getElementById("why")?.focus();
    await saving.leave(sheet.sheet, why, `${set.tag}, test left`, t.over);
  };
  const mayTest = useOffer(set.id, "insulation_test").offer?.offered === true;
  const tools = useBench<View>(given, {
    order: ["ohms"],
    entered: t.entered,
    put: t.type,
    onCommit: (name) => isSetup(name) && t.commit(name),
    onNext: (name) => {
      if (name === "ohms") t.take();
      else if (name === "second") focusOhms();
      else tools.hold(null);
    },
    nextLabel: (name) => (name === "ohms" ? "take it" : "next"),
    told,
    any: rows.length > 0,
    save,
    sending: saving.sending,
    refusal: saving.refusal,
    reason: { value: pending.reason, set: (reason) => t.change({ reason }) },
    photo: sheet.entries.at(-1)?.uuid ?? "",
    keys: [
      {
        key: "v",
        does: "volts on, volts off",
        run: () => {
          if (right && mode === "new" && (running || mayTest))
            sheet.add({ kind: running ? "end" : "start", leg });
        },
      },
    ],
  });
  const focusOhms = () => tools.focus("ohms");
  const { answer, may } = tools;
  const taken = rows.filter((r) => r.leg === leg).map((r) => r.second);
  useWake(running, clock?.startedAt ?? 0, t.marks, taken, now, focusOhms);
  const refused = answer?.problems.find((p) => p.code === "built_in_electronics");
  if (refused) return <Forbidden set={set} message={refused.message} right={refused.right ?? ""} />;
  const width = narrow ? Math.min(358, window.innerWidth - 32) : 560;
  const begun = clock !== null && clock.dischargedAt === null;
  const discharge = answer?.view.clocks.find((c) => c.name === clock?.leg)?.discharge_until ?? null;
  return (
    <Bench
      tools={tools}
      more={`${set.service}, dead, isolated and discharged`}
      before={<Whose sheet={sheet} fresh={mode === "new"} right={right} />}
    >
      <div className="bench">
        <div>
          <SetupSentence
            body={body}
            control={control}
            may={may}
            onSay={(more) => sheet.add({ kind: "setup", ...more })}
          />
          <div className={css.windingbox}>
            <WindingDrawing width={width} body={body} leg={leg} live={running} control={control} />
            <div className="setupfields">
              {SETUP.map(([name, label]) => (
                <SetupField key={name} name={name} label={label} pencil={name in pending.setup} />
              ))}
              {answer?.values.dew_point && (
                <span className="setupfield">
                  <span className="lab">dew point</span>
                  <span className="mono" data-value="dew_point">
                    {answer.values.dew_point.shown}
                  </span>
                </span>
              )}
            </div>
          </div>
          {mode === "new" && (
            <Gate
              setId={set.id}
              act="insulation_test"
              what="Volts on"
              seen=""
              inPlace={right ? <ProveHere setId={set.id} tag={set.tag} /> : null}
            >
              {(offered) =>
                (offered || running || begun) && (
                  <Stopwatch
                    clock={clock}
                    now={now}
                    marks={t.marks}
                    taken={taken}
                    dischargeUntil={discharge}
                    leg={LEG_WORD[!running && begun ? clock.leg : leg]}
                    may={right}
                    width={width}
                    onStart={() => {
                      sheet.add({ kind: "start", leg });
                      setTimeout(focusOhms, 0);
                    }}
                    onEnd={() => clock && sheet.add({ kind: "end", leg: clock.leg })}
                    onDischarged={() => clock && sheet.add({ kind: "discharged", leg: clock.leg })}
                  />
                )
              }
            </Gate>
          )}
          {may && (
            <ReadingLine
              leg={leg}
              running={running}
              onLeg={(next) => t.change({ leg: next, second: "" })}
              onTake={t.take}
            />
          )}
          <Readings rows={rows} onBack={(uuid) => sheet.add({ kind: "undo", undoes: uuid })} />
          <Complaint error={sheet.refusal} />
          <Photo />
          <KeptLate sheet={sheet.late} />
        </div>
        <div>
          <CurvePaper
            paper={answer?.view.paper ?? null}
            width={narrow ? width : 600}
            height={narrow ? 210 : 250}
            zone={zone}
          />
          <Derived rows={WORKED_OUT} />
          <Verdicts>
            {answer?.due && rows.length > 0 && (
              <p data-testid="due">
                <span className="lab mute">Next: </span>
                {answer.due.reason}
              </p>
            )}
          </Verdicts>
          <Reason
            otherwise={
              tools.writes && mode === "new" && sheet.entries.length > 0
                ? "If the test is left without a record, why"
                : ""
            }
          />
          <div className="savebar">
            {mode === "new" && tools.writes && sheet.entries.length > 0 && (
              <button className="btn-line" onClick={() => void leave()}>
                Leave the test
              </button>
            )}
            <PutOnRecord />
          </div>
          <Sending />
        </div>
      </div>
    </Bench>
  );
}
const SETUP: [SetupFigure, string][] = [
  ["test_volts", "test volts dc"],
  ["ceiling", "tester reads up to"],
  ["winding", "winding"],
  ["ambient", "room"],
  ["humidity", "humidity"],
];
const OF_A_LEG: [string, string][] = [
  ["minute", "at one minute"],
  ["at40", "at 40 °C"],
  ["factor", "correction"],
  ["absorption", "absorption ratio"],
  ["polarisation", "polarisation index"],
  ["minimum", "minimum at 40 °C"],
];
const WORKED_OUT = OF_A_LEG.flatMap(([k, label]) =>
  ["", "_L1", "_L2", "_L3"].map((l): [string, string] => [`${k}${l}`, l ? `${label}, ${l.slice(1)}` : label]),
);

/** Whose sheet it is: one's own, several people's, or nobody's here to write on. */
function Whose({
  sheet,
  fresh,
  right,
}: {
  sheet: ReturnType<typeof useOpenSheet<"insulation">>;
  fresh: boolean;
  right: boolean;
}) {
  return (
    <>
      {sheet.by && sheet.mine < sheet.entries.length && (
        <p className="notice">You and {sheet.by} are on one sheet: readings of both count.</p>
      )}
      {fresh &&
        sheet.mine > 0 &&
        sheet.others.map((o) => (
          <p key={o.uuid} className="notice">
            {o.opened_by} has another test of this set open.{" "}
            <button className="linklike" onClick={() => sheet.join(o.uuid)}>
              Take part in that one
            </button>
          </p>
        ))}
      {!right && (
        <p className="notice">You can look; putting a test on record takes a technician's rights.</p>
      )}
    </>
  );
}
/** The three readings where the test is made, on a set that is isolated for it. */
function ProveHere({ setId, tag }: { setId: number; tag: string }) {
  const sheet = useSafeSheet(setId, tag);
  const safety = sheet.safety.data;
  const isolated = safety && ["isolated", "live"].includes(safety.isolation.state);
  return isolated ? (
    <div className="wholeline">
      <ProofPanel safety={safety} add={sheet.add} refusal={sheet.refusal} />
    </div>
  ) : (
    <span className="mute">Readings that were taken can be typed in below all the same.</span>
  );
}
function Forbidden({ set, message, right }: { set: SetOut; message: string; right: string }) {
  return (
    <div className="emptyword" role="alert">
      <h1>
        <span className="mono">{set.tag}</span>: no insulation test here
      </h1>
      <p>{message}</p>
      <p className="mute">What is right: {right}.</p>
      <p>
        <Link to={`/sets/${set.id}`}>Back to the set</Link>
      </p>
    </div>
  );
}
