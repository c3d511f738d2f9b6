/** Ohms of a dead machine: what was measured as it is, its figures where the probes go. */
import { useNarrow, type Schemas } from "../../base";
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
import { Bridge } from "./Bridge";
import { Capacitor, Poles } from "./Parts";
import { ALL, figuresOf, GROUNDS, NAMES, type Body, type Of } from "./sheet";
import { Sensors } from "./Sensors";
import { SingleTerminals, Terminals } from "./Terminals";
import { Choose, Inline, Tick } from "../../safety";
import css from "./drawing.module.scss";

type View = Schemas["ShownOhmsView"];
const EMPTY: View = {
  of: "winding",
  choices: [],
  joined: "",
  windings: [],
  diodes: [],
  band: null,
  wait: null,
};
const AT = [
  ["", "choose"],
  ["motor", "the motor"],
  ["starter", "the starter"],
] as const;
const JOINED = [
  ["", "choose"],
  ["wye", "wye"],
  ["delta", "delta"],
  ["apart", "each by itself"],
] as const;
const LEADS = [
  ["", "choose"],
  ["subtract", "read together"],
  ["zeroed", "zeroed"],
  ["four_wire", "four-wire"],
] as const;
const WARM = [
  ["", "choose"],
  ["cold", "cold"],
  ["hot", "hot"],
] as const;

/** A tone heard, a case looked at, rails tried: said, with no figure. */
const savable = (body: Body): boolean => Boolean(body.tone ?? body.rails ?? body.earth ?? body.looks);

export function Drawing({ given }: { given: Given }) {
  const sheet = useOneEntry<"ohms">(given, { figures: ALL, kept: ["at", "joined"], also: savable });
  const tools = useBench<View>(given, {
    ...sheet.own,
    order: figuresOf(sheet.body.of ?? (sheet.own.told.answer?.view.of as Of | undefined) ?? "winding"),
  });
  const narrow = useNarrow();
  const view = tools.answer?.view ?? EMPTY;
  const of = sheet.body.of ?? (view.of as Of);
  const width = narrow ? Math.min(358, window.innerWidth - 32) : 560;
  const said = { body: sheet.body, say: sheet.change };
  const choices = view.choices.map((c) => [c, NAMES[c as Of]] as const);
  return (
    <Bench tools={tools} before={given.mode === "new" && <NotToBeStarted set={given.set} />}>
      <p className="statesentence">
        Measured on{" "}
        {choices.length > 0 && (
          <Choose
            name="of"
            label="Measured on"
            options={choices}
            body={{ ...sheet.body, of }}
            say={sheet.change}
          />
        )}
        <How of={of} body={sheet.body} say={sheet.change} />
      </p>
      <div className={css.bench}>
        <div>
          {of === "winding" && (
            <>
              <Terminals view={view} width={width} />
              <div className={css.row}>
                {GROUNDS.map((name) => (
                  <NamedFigure key={name} name={name} />
                ))}
              </div>
            </>
          )}
          {of === "single_phase" && <SingleTerminals view={view} width={width} />}
          {of === "contacts" && <Poles width={width} />}
          {of === "capacitor" && <Capacitor view={view} width={width} {...said} />}
          {of === "sensors" && <Sensors width={width} {...said} />}
          {of === "drive" && <Bridge view={view} width={width} {...said} />}
        </div>
        <div>
          <Verdicts />
          {["winding", "single_phase", "contacts", "sensors"].includes(of) && (
            <p>
              <Tick name="tone" label="Only a continuity tone" {...said} />
            </p>
          )}
          <RecordEnd />
        </div>
      </div>
    </Bench>
  );
}
/** What is said beside what was measured on, as far as it counts there. */
function How({ of, body, say }: { of: Of; body: Body; say: (more: Partial<Body>) => void }) {
  const said = { body, say };
  if (of === "drive")
    return (
      <>
        . <Tick name="drive_off" label="Motor leads disconnected from the drive" {...said} />
      </>
    );
  if (of === "capacitor") return <>, discharged and out of circuit.</>;
  const leads = (
    <>
      Test leads <Choose name="lead_way" label="Test leads" options={LEADS} {...said} />
      {body.lead_way === "subtract" && <Inline name="leads" />}
    </>
  );
  if (of === "contacts") return <>, pushed in by hand. {leads}.</>;
  const warm = (
    <>
      Motor <Choose name="warm" label="Motor to the touch" options={WARM} {...said} />
    </>
  );
  if (of === "sensors")
    return (
      <>
        , at their own leads. {leads}. {warm}.{" "}
        <Tick name="relay_off" label="Leads disconnected from the relay" {...said} />{" "}
        <Tick name="low_test" label="Ohmmeter tests with 2.5 V or less" {...said} />
      </>
    );
  if (of === "single_phase")
    return (
      <>
        . {leads}. {warm}.
      </>
    );
  return (
    <>
      {" "}
      at <Choose name="at" label="Measured at" options={AT} {...said} />, joined{" "}
      <Choose name="joined" label="Windings" options={JOINED} {...said} />. {leads}. Winding at{" "}
      <Inline name="winding" />. {warm}.{" "}
      <Tick name="drive_off" label="Drive and electronics disconnected" {...said} />
    </>
  );
}
