/** The leads of a motor: the box as it hangs there, each half winding's arrow, and which lead moves where. */
import { useMemo, useState } from "react";
import { useNarrow, type EntryBody, type Schemas } from "../../base";
import {
  Bench,
  NamedFigure,
  NotToBeStarted,
  RecordEnd,
  useBench,
  useOneEntry,
  useTools,
  Verdicts,
  type Given,
} from "../../safety";
import { Choose, Tick, WordsField } from "../../safety";
import { Halves } from "./Halves";
import { Hung } from "./Hung";
import { OldPhotos } from "./OldPhotos";
import { ROLLS, Rolls } from "./Rolls";
import { Unmarked } from "./Unmarked";
import { nameOf, nutsOf, put, standOf, textOf } from "./nuts";
import css from "./drawing.module.scss";

type View = Schemas["ShownLeadsView"];
type Body = EntryBody<"leads">;
const KEPT = ["leads", "winding", "plate_for", "marks", "colours", "plate_box"] as const;
const LEADS = [
  ["", "choose"],
  ["3", "three leads"],
  ["6", "six leads"],
  ["9", "nine leads"],
  ["12", "twelve leads"],
] as const;
const WINDING = [
  ["", "not known"],
  ["wye", "wye"],
  ["delta", "delta"],
] as const;
const CONTINUITY = [
  ["", "not tested"],
  ["one", "one group"],
  ["pairs", "pairs only"],
  ["pairs_and_triple", "three pairs and one triple"],
  ["triples", "three triples"],
] as const;
const MARKS = [
  ["", "as usual"],
  ["t", "T1, T2, T3"],
  ["iec", "U1, V1, W1"],
] as const;
const STAGE = [
  ["", "choose"],
  ["found", "as found"],
  ["left", "as left"],
] as const;

export function Drawing({ given }: { given: Given }) {
  const sheet = useOneEntry<"leads">(given, {
    figures: ["supply", "test_volts", ...ROLLS],
    kept: [...KEPT],
    also: (body: Body) => Boolean(body.box?.trim() || body.groups?.trim()),
  });
  const tools = useBench<View>(given, { ...sheet.own, order: ["supply", "test_volts", ...ROLLS] });
  const said = { body: sheet.body, say: sheet.change };
  const view = tools.answer?.view;
  return (
    <Bench tools={tools} before={given.mode === "new" && <NotToBeStarted set={given.set} />}>
      <Sentence {...said} />
      <div className={css.bench}>
        <Hanging {...said} />
        <div>
          <Verdicts />
          {view && <Way view={view} />}
          <OldPhotos />
          {view && <Halves halves={view.halves} />}
          {view && view.lines.length > 0 && <Started view={view} />}
          <p>
            <Tick name="traced" label="Each lead followed to its nut by hand" {...said} />
          </p>
          <WordsField name="colours" label="Colors or tape numbers" most={300} {...said} />
          <WordsField name="plate_box" label="Nameplate's own diagram, if it has one" most={400} {...said} />
          <Unmarked view={view?.unmarked} {...said} />
          <Rolls view={view} open={ROLLS.some((n) => Boolean(sheet.own.entered(n)))} />
          <RecordEnd />
        </div>
      </div>
    </Bench>
  );
}
interface Said {
  body: Body;
  say: (more: Partial<Body>) => void;
}
function Sentence({ body, say }: Said) {
  const said = { body, say };
  return (
    <p className="statesentence">
      <Choose name="leads" label="Leads of the motor" options={LEADS} {...said} />, marked{" "}
      <Choose name="marks" label="Lead marks" options={MARKS} {...said} />
      {(body.leads === "9" || body.leads === "12") && (
        <>
          , winding per nameplate{" "}
          <Choose name="winding" label="Winding, per nameplate" options={WINDING} {...said} />
        </>
      )}
      {body.leads !== "3" && (
        <>
          , a single nameplate voltage is for{" "}
          <Choose
            name="plate_for"
            label="A single nameplate voltage is for"
            options={[
              ["", "choose"],
              ["low", body.leads === "6" ? "delta" : "the low list"],
              ["high", body.leads === "6" ? "star" : "the high list"],
            ]}
            {...said}
          />
        </>
      )}
      , all leads apart the ohmmeter finds{" "}
      <Choose name="continuity" label="Open-lead continuity" options={CONTINUITY} {...said} />. The box{" "}
      <Choose name="stage" label="As found or as left" options={STAGE} {...said} />.
    </p>
  );
}
/** The box itself, turned to how it hangs, with the same as words beneath it. */
function Hanging({ body, say }: Said) {
  const { may } = useTools();
  const narrow = useNarrow();
  const [chosen, setChosen] = useState(0);
  const [turn, setTurn] = useState(0);
  const leads = Number(body.leads ?? 0);
  const marks = body.marks ?? (leads === 3 || leads === 6 ? "iec" : "t");
  const text = body.box ?? "";
  const nuts = useMemo(() => nutsOf(text, leads), [text, leads]);
  const wide = narrow ? Math.min(350, window.innerWidth - 40) : 580;
  const stand = standOf(nuts.length + 1, leads, { wide, high: narrow ? 250 : 380 }, turn);
  const order = nuts.map((n, i) => n.line || `nut ${i + 1}`);
  return (
    <div>
      {leads > 0 ? (
        <>
          <Hung
            nuts={nuts}
            marks={marks}
            stand={stand}
            chosen={Math.min(chosen, nuts.length)}
            onChoose={setChosen}
            onBox={(next) => say({ box: textOf(next, marks) })}
          />
          {narrow && (
            <div className={css.grid} role="group" aria-label={`Leads in ${order[chosen] ?? "a new nut"}`}>
              {Array.from({ length: leads }, (_, i) => (
                <button
                  key={i}
                  type="button"
                  className="btn-line"
                  aria-pressed={nuts[chosen]?.leads.includes(i + 1) ?? false}
                  onClick={() => may && say({ box: textOf(put(nuts, i + 1, chosen), marks) })}
                >
                  {nameOf(i + 1, marks)}
                </button>
              ))}
            </div>
          )}
          <p className="mute">
            {chosen < nuts.length ? `Leads go to ${order[chosen] ?? ""}.` : "Leads go to a new nut."}{" "}
            <button type="button" className="linklike" onClick={() => setTurn((t) => (t + 1) % 4)}>
              Turn the box
            </button>
          </p>
        </>
      ) : (
        <p className="mute">Enter how many leads the motor brings out: the box is drawn for them.</p>
      )}
      <div className="field">
        <label htmlFor="box-words">Leads put together, a slash between nuts</label>
        <input
          id="box-words"
          className="mono"
          autoComplete="off"
          spellCheck={false}
          maxLength={400}
          placeholder="L1 T1 T7 / L2 T2 T8 / …"
          disabled={!may}
          value={text}
          onChange={(e) => say({ box: e.target.value })}
        />
      </div>
      <div className={css.row}>
        <NamedFigure name="supply" label="supply between lines, measured before isolating" />
      </div>
    </div>
  );
}
/** Which lead moves where, and the list that belongs on this supply. */
function Way({ view }: { view: View }) {
  if (!view.right.length) return null;
  return (
    <section className={css.way} aria-label="Which lead moves">
      {view.moves.map((m, i) => (
        <p key={m} className={css.move}>
          {i > 0 && <span className="mute">or </span>}
          {m}
        </p>
      ))}
      <p className="mute">
        {view.winding}, {view.list_title}:{" "}
        <span className="mono">
          {view.right.map((n) => [n.line, ...n.leads].filter(Boolean).join(" ")).join(" / ")}
        </span>
      </p>
    </section>
  );
}
/** What would happen if it were started so, against the right list on this supply. */
function Started({ view }: { view: View }) {
  return (
    <p className={css.started} data-started>
      Started so, of what is right at standstill:{" "}
      {view.lines.map((l) => (
        <span key={l.name}>
          {l.name} <strong className="mono">{l.percent.shown}</strong>{" "}
        </span>
      ))}
      {view.torque && (
        <>
          torque <strong className="mono">{view.torque.shown}</strong>
        </>
      )}
      {view.heat && (
        <>
          , heat in the hottest half <strong className="mono">{view.heat.shown}</strong>
        </>
      )}
    </p>
  );
}
