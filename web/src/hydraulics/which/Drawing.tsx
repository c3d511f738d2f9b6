/** Which kind of pump for this liquid: each kind with what it is for and what speaks against it. */
import type { EntryBody, Schemas } from "../../base";
import { Bench, Choose, NamedFigure, RecordEnd, Verdicts, type Given } from "../../safety";
import { YES_NO } from "../options";
import { useSheet } from "../useSheet";
import css from "../water.module.scss";

type Body = EntryBody<"which">;
type View = Schemas["WhichView"];
const ASKED: [keyof Body & string, string][] = [
  ["rags", "rags or long fibres"],
  ["dosing", "exact dosing"],
  ["shear", "flocs to be kept whole"],
  ["dry", "may run dry"],
  ["closes", "service can shut"],
  ["gas", "gas"],
  ["wheel", "impeller made for solids"],
];
const FIGURES = ["solids", "solids_mg", "thick", "head", "flow"];
const SIGN = { yes: "—", no: "×", open: "?" } as const;

export function Drawing({ given }: { given: Given }) {
  const { tools, body, say, view } = useSheet<"which", View>(given, {
    figures: FIGURES,
    kept: [...FIGURES, ...ASKED.map(([n]) => n)],
    also: (b) => ASKED.some(([n]) => Boolean(b[n])),
  });
  return (
    <Bench tools={tools}>
      <p className="statesentence">
        {ASKED.map(([name, words], i) => (
          <span key={name}>
            {i > 0 && "; "}
            {words}: <Choose name={name} label={words} options={YES_NO} body={body} say={say} />
          </span>
        ))}
        .
      </p>
      <div className={css.row}>
        <NamedFigure name="solids" label="solids, by mass" />
        <NamedFigure name="solids_mg" label="or mg/l" />
        <NamedFigure name="thick" label="viscosity" />
        <NamedFigure name="head" label="head" />
        <NamedFigure name="flow" label="flow" />
      </div>
      <div className={css.bench}>
        <ul className={css.rows} aria-label="Kinds of pump">
          {view?.kinds.map((k) => (
            <li key={k.id} data-kind={k.id} data-fits={k.fits}>
              <strong>
                <span className="mono" aria-hidden="true">
                  {SIGN[k.fits]}
                </span>{" "}
                {k.title}
              </strong>
              {k.here && <span className={css.pencilword}> this set&apos;s</span>}
              <p className="mute">
                For {k.for_what}. Shut: {k.shut}.
              </p>
              {k.against.length > 0 && <p>Against it: {k.against.join("; ")}.</p>}
              {k.against.length === 0 && k.asks.length > 0 && (
                <p className="mute">Still asks: {k.asks.join(", ")}.</p>
              )}
            </li>
          ))}
        </ul>
        <div>
          <Verdicts />
          <RecordEnd />
        </div>
      </div>
    </Bench>
  );
}
