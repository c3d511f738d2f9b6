/** The fuses of a set: each as it is between its clips, what hangs on them, why they blew, and what power waits for. */
import { Fetched, type Schemas } from "../../base";
import {
  Bench,
  NamedFigure,
  NotToBeStarted,
  READY_LIST,
  RecordEnd,
  useBench,
  useOneEntry,
  Verdicts,
  type Given,
} from "../../safety";
import { Choose, Tick, WordsField } from "../../safety";
import { Fuse, type Body } from "./Fuse";
import css from "./drawing.module.scss";

type View = Schemas["ShownFusesView"];
const LEGS = [1, 2, 3];
const FIGURES = ["ohms", "amps", "volts", "ka"].flatMap((what) => LEGS.map((n) => `${what}_${n}`));
const MORE = ["fault_ka", "others_1", "others_2", "others_3"];
const EMPTY: View = {
  fuses: LEGS.map((leg) => ({ leg, name: `L${leg}`, state: "", clip: "", unlike: [] })),
  wanted: "",
  classes: {},
  load: null,
  signs: false,
};
const WHEN = [
  ["", "choose"],
  ["found", "found"],
  ["fitted", "fitted, new"],
] as const;
const CAUSE = [
  ["", "choose"],
  ["found", "found"],
  ["not_found", "not found"],
] as const;
const SIGNED = [
  ["", "choose"],
  ["licensed", "a licensed person"],
  ["manufacturer", "the manufacturer"],
] as const;

/** Clips, marks, covers and causes are said, with no figure. */
const savable = (body: Body): boolean =>
  Boolean(body.covers ?? body.cause ?? body.signed_as ?? body.clip_1 ?? body.clip_2 ?? body.clip_3);

export function Drawing({ given }: { given: Given }) {
  const sheet = useOneEntry<"fuses">(given, {
    figures: [...FIGURES, ...MORE],
    kept: ["fault_ka"],
    also: savable,
  });
  const tools = useBench<View>(given, {
    ...sheet.own,
    order: [...FIGURES, ...MORE],
  });
  const view = tools.answer?.view ?? EMPTY;
  const said = { body: sheet.body, say: sheet.change };
  return (
    <Bench tools={tools} before={given.mode === "new" && <NotToBeStarted set={given.set} />}>
      <p className="statesentence">
        Fuses as <Choose name="when" label="Fuses as" options={WHEN} {...said} />.{" "}
        <Tick name="out" label="Each taken out and read by ohms" {...said} />
      </p>
      <div className={css.bench}>
        <div>
          <div className={css.three}>
            {view.fuses.map((f) => (
              <Fuse key={f.leg} fuse={f} classes={view.classes} {...said} />
            ))}
          </div>
          <p className={css.wanted}>
            Per drawing: <strong>{view.wanted || "not entered on a nameplate"}</strong>
          </p>
          <div className={css.row}>
            <NamedFigure name="fault_ka" label="available fault current here, kA" />
          </div>
          <OnThem body={sheet.body} say={sheet.change} load={view.load?.shown ?? ""} />
        </div>
        <div>
          <Verdicts />
          <Cause body={sheet.body} say={sheet.change} signs={view.signs} />
          <p>
            <Tick
              name="covers"
              label="Covers on, nobody in front, started from outside the closed door"
              {...said}
            />
          </p>
          {given.mode === "new" && <Fetched load={READY_LIST} with={{ set: given.set }} meanwhile={null} />}
          <RecordEnd />
        </div>
      </div>
    </Bench>
  );
}
/** What else is fed through these fuses: other motors by their nameplate current, or nothing. */
function OnThem({ body, say, load }: { body: Body; say: (more: Partial<Body>) => void; load: string }) {
  const others = MORE.slice(1);
  const first = others.findIndex((n) => !(body as Record<string, unknown>)[n]);
  const shown = first < 0 ? others : others.slice(0, first + 1);
  return (
    <>
      <p>
        <Tick name="alone" label="Nothing else on these fuses" body={body} say={say} />
      </p>
      {!body.alone && (
        <div className={css.row}>
          {shown.map((n, i) => (
            <NamedFigure key={n} name={n} label={`another motor on them, ${i + 1}`} />
          ))}
        </div>
      )}
      {load && (
        <p className="mute">
          On them, the largest a quarter more: <span className="mono">{load}</span>
        </p>
      )}
    </>
  );
}
/** Why they blew; after a second time without a cause, who signed. */
function Cause({ body, say, signs }: { body: Body; say: (more: Partial<Body>) => void; signs: boolean }) {
  return (
    <>
      <p className="statesentence">
        Cause <Choose name="cause" label="Cause" options={CAUSE} body={body} say={say} />
      </p>
      {body.cause === "found" && (
        <WordsField name="cause_words" label="What the cause was" most={300} body={body} say={say} />
      )}
      {signs && (
        <>
          <p className="statesentence">
            No cause found, tests passed: signed as{" "}
            <Choose name="signed_as" label="Signed as" options={SIGNED} body={body} say={say} />
          </p>
          <WordsField name="signed" label="Signed by (entered by a lead)" most={120} body={body} say={say} />
        </>
      )}
    </>
  );
}
