/** The control circuit: one probe on the common, the other walks down; what is open, and whether it is right to be. */
import { useState } from "react";
import { RadioGroup } from "../../base";
import {
  Bench,
  NamedFigure,
  NotToBeStarted,
  RecordEnd,
  useBench,
  useOneEntry,
  Verdicts,
  type Given,
} from "../../safety";
import { fieldOf, placeOf, withFigure } from "../spots";
import { Choose, Tick, WordsField } from "../../safety";
import { Editor } from "./Editor";
import { Rail } from "./Rail";
import { KINDS, placesOf, READ, rulesOf, SAID, type Body, type Kind, type View } from "./sheet";
import css from "./drawing.module.scss";

const SELECTOR = [
  ["", "choose"],
  ["auto", "automatic"],
  ["hand", "hand"],
  ["off", "off"],
] as const;
const PULLED = [
  ["", "choose"],
  ["out", "out"],
  ["in", "in"],
  ["chatters", "chattering"],
] as const;
const WIRES = [
  ["", "choose"],
  ["three", "it stays out (three-wire)"],
  ["two", "it starts by itself (two-wire)"],
] as const;
const HERTZ = [
  ["", "choose"],
  ["50", "50"],
  ["60", "60"],
] as const;
const EMPTY: View = {
  volts: null,
  confirmed: false,
  elements: [],
  source_reads: "",
  next: "",
  why: null,
  left: 0,
};

/** Something was read at a place, or seen and said. */
const savable = (body: Body): boolean =>
  Boolean(body.spots?.length) || Boolean(body.wires ?? body.stays ?? (body.lifted || body.jumper));

export function Drawing({ given }: { given: Given }) {
  const sheet = useOneEntry<"control">(given, { figures: SAID, kept: [], also: savable });
  const view = (sheet.own.told.answer?.view as View | undefined) ?? EMPTY;
  const [kind, setKind] = useState<Kind>("volts");
  const [editing, setEditing] = useState(false);
  const spots = sheet.body.spots ?? [];
  const places = placesOf(view, kind).map((at) => fieldOf(kind, at));
  const focusOn = (name: string) => setTimeout(() => document.getElementById(`f-${name}`)?.focus());
  const tools = useBench<View>(
    { ...given, rules: rulesOf(given.rules, view) },
    {
      ...sheet.own,
      order: [...places, ...SAID],
      entered: (name) => {
        const place = placeOf(name, READ);
        return place ? spots.find((s) => s.at === place[1])?.[place[0]] : sheet.own.entered(name);
      },
      put: (name, next) => {
        const place = placeOf(name, READ);
        if (place) sheet.change({ spots: withFigure(spots, READ, ...place, next) });
        else sheet.own.put(name, next);
      },
      // Once a figure is entered the hand goes where it tells most.
      onNext: (name) => {
        const i = places.indexOf(name);
        const lead = kind === "volts" && view.next ? fieldOf(kind, view.next) : "";
        focusOn(i >= 0 && lead && lead !== name ? lead : (places[(i + 1) % places.length] ?? name));
      },
      nextLabel: () => "next",
    },
  );
  const shown = (k: Kind, at: string) => spots.find((s) => s.at === at)?.[k]?.text ?? "";
  const said = { body: sheet.body, say: sheet.change };
  const title = view.elements.find((e) => e.id === view.next)?.name ?? "Source";
  return (
    <Bench tools={tools} before={given.mode === "new" && <NotToBeStarted set={given.set} />}>
      {editing ? (
        <Editor set={given.set} onDone={() => setEditing(false)} />
      ) : (
        <>
          <p className="statesentence">
            Selector <Choose name="selector" label="Selector" options={SELECTOR} {...said} />, contactor{" "}
            <Choose name="pulled" label="Contactor" options={PULLED} {...said} />.{" "}
            <Tick name="called" label="Called to run" {...said} />{" "}
            <Tick name="proved" label="Meter proved before and after" {...said} />
          </p>
          <div className={css.bench}>
            <div>
              <RadioGroup<Kind>
                label="Read"
                className={css.kinds ?? ""}
                options={[...READ]}
                value={kind}
                says={(k) => KINDS[k]}
                onChoose={setKind}
              />
              <Rail view={view} kind={kind} shown={shown} />
            </div>
            <div>
              <Verdicts />
              {view.next && (
                <p data-next={view.next}>
                  Next: <strong className={css.where}>{title}, to the common.</strong>{" "}
                  <span className="mute">{view.why}</span>
                </p>
              )}
              <More body={sheet.body} say={sheet.change} />
              <RecordEnd
                beside={
                  given.set.may !== "viewer" &&
                  given.mode === "new" && (
                    <button className="btn-line" onClick={() => setEditing(true)}>
                      {view.confirmed ? "Edit control circuit" : "Confirm or edit control circuit"}
                    </button>
                  )
                }
              />
            </div>
          </div>
        </>
      )}
    </Bench>
  );
}
/** What is asked only where it is seen: two coils, a coil that stays, a far coil, what happens after a power cut. */
function More({ body, say }: { body: Body; say: (more: Partial<Body>) => void }) {
  return (
    <>
      <p className="statesentence">
        After a power cut{" "}
        <Choose name="wires" label="After a power cut" options={WIRES} body={body} say={say} />.
      </p>
      <div className={css.row}>
        <WordsField name="lifted" label="Wire lifted at" most={80} body={body} say={say} />
        <WordsField name="jumper" label="Jumper fitted at" most={80} body={body} say={say} />
      </div>
      <details>
        <summary>Coil and cable</summary>
        <Tick name="stays" label="Stays in with its contact open" body={body} say={say} />
        <p className="statesentence">
          Supply at <Choose name="hertz" label="Supply frequency, Hz" options={HERTZ} body={body} say={say} />{" "}
          Hz.
        </p>
        <div className={css.row}>
          {SAID.map((name) => (
            <NamedFigure key={name} name={name} />
          ))}
        </div>
      </details>
    </>
  );
}
