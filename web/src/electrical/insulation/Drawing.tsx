/** The insulation test: prepared, timed, judged while it runs; what was typed afterwards counts as well. */
import { Link } from "react-router";
import {
  Complaint,
  Fetched,
  KeptLate,
  useEvaluation,
  useNarrow,
  useOpenSheet,
  useSession,
  type Schemas,
  small,
} from "../../base";
import { useSaving } from "../../logbook";
import { useSites, type SetOut } from "../../plant";
import {
  Bench,
  Derived,
  Gate,
  Photo,
  PROOF_PANEL,
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
import { SetupField, SetupSentence } from "./fields";
import { LEG_WORD } from "./logic";
import { ReadingLine } from "./ReadingLine";
import { Readings } from "./Readings";
import { Stopwatch } from "./Stopwatch";
import { useLive, useWake } from "./useLive";
import { isSetup, SETUP, useTest } from "./useTest";
import { WindingDrawing } from "./WindingDrawing";
import css from "./drawing.module.scss";

type View = Schemas["ShownInsulationView"];
const SECOND = { label: "Time of reading, s", dimension: "", units: ["s"], unit: "s", help: "" };

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
    await saving.leave(sheet.sheet, why, `${set.tag}, test closed without record`, t.over);
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
    nextLabel: (name) => (name === "ohms" ? "add" : "next"),
    told,
    named: t.named,
    any: rows.length > 0,
    save,
    sending: saving.sending,
    refusal: saving.refusal,
    reason: { value: pending.reason, set: (reason) => t.change({ reason }) },
    sheet: sheet.sheet,
    photo: sheet.entries.at(-1)?.uuid ?? "",
    keys: [
      {
        key: "v",
        does: "start or end test",
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
      more={`${set.service}. Test only when isolated, proved dead and discharged`}
      before={<Whose sheet={sheet} fresh={mode === "new"} />}
    >
      <div className={small.bench}>
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
              what="Insulation test"
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
                <span className="lab mute">Next test: </span>
                {answer.due.reason}
              </p>
            )}
          </Verdicts>
          <Reason
            otherwise={
              tools.writes && mode === "new" && sheet.entries.length > 0
                ? "Reason, if closed without a record"
                : ""
            }
          />
          <div className="savebar">
            {mode === "new" && tools.writes && sheet.entries.length > 0 && (
              <button className="btn-line" onClick={() => void leave()}>
                Close without record
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
const OF_A_LEG: [string, string][] = [
  ["minute", "1 min value"],
  ["at40", "at 40 °C"],
  ["factor", "correction factor"],
  ["absorption", "absorption ratio (DAR)"],
  ["polarisation", "polarisation index (PI)"],
  ["minimum", "minimum at 40 °C"],
];
const WORKED_OUT = OF_A_LEG.flatMap(([k, label]) =>
  ["", "_L1", "_L2", "_L3"].map((l): [string, string] => [`${k}${l}`, l ? `${label}, ${l.slice(1)}` : label]),
);

/** Whose sheet it is: one's own, several people's, or nobody's here to write on. */
function Whose({ sheet, fresh }: { sheet: ReturnType<typeof useOpenSheet<"insulation">>; fresh: boolean }) {
  return (
    <>
      {sheet.by && sheet.mine < sheet.entries.length && (
        <p className="notice">{sheet.by} is on this test too. Readings from both count.</p>
      )}
      {fresh &&
        sheet.mine > 0 &&
        sheet.others.map((o) => (
          <p key={o.uuid} className="notice">
            {o.opened_by} has another test open on this set.{" "}
            <button className="linklike" onClick={() => sheet.join(o.uuid)}>
              Join that test
            </button>
          </p>
        ))}
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
      <Fetched load={PROOF_PANEL} with={{ safety, add: sheet.add, refusal: sheet.refusal }} />
    </div>
  ) : (
    <span className="mute">Readings already taken can still be entered below.</span>
  );
}
function Forbidden({ set, message, right }: { set: SetOut; message: string; right: string }) {
  return (
    <div className="emptyword" role="alert">
      <h1>
        <span className="mono">{set.tag}</span>: insulation test not allowed
      </h1>
      <p>{message}</p>
      <p className="mute">Instead: {right}.</p>
      <p>
        <Link to={`/sets/${set.id}`}>Back to the set</Link>
      </p>
    </div>
  );
}
