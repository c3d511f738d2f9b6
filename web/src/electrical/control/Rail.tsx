/** The control ladder down the sheet: each element on the one wire, its field beside it, suspicion as the weight of ink. */
import { FigureInput } from "../../base";
import { useFigure, useTools } from "../../safety";
import { fieldOf } from "../spots";
import { placesOf, type Kind, type View } from "./sheet";
import css from "./drawing.module.scss";

type Shape = Pick<View["elements"][number], "kind" | "share" | "bypassed">;
export const ROW = 56;

interface Props {
  view: View;
  kind: Kind;
  shown: (kind: Kind, at: string) => string;
}
export function Rail({ view, kind, shown }: Props) {
  const { given } = useTools();
  const rows = view.elements.length + 1;
  const height = ROW * (rows + 1);
  const readable = placesOf(view, kind);
  return (
    <div className={css.rail}>
      <svg
        viewBox={`0 0 70 ${height}`}
        width={70}
        height={height}
        role="img"
        aria-label={`Control circuit of ${given.set.tag}`}
      >
        <path className={css.ink} d={`M35 8V${ROW}M21 8h28`} />
        <circle className={css.point} cx={35} cy={ROW} r={3.4} />
        {view.elements.map((e, i) => (
          <Drawn key={e.id} element={e} top={ROW * (i + 1)} />
        ))}
        <path className={css.ink} d={`M35 ${ROW * rows}V${height - 20}M21 ${height - 20}h28`} />
        {view.next && (
          <circle
            className={css.probe}
            cx={35}
            cy={ROW * (view.next === "source" ? 1 : view.elements.findIndex((e) => e.id === view.next) + 2)}
            r={9}
          />
        )}
      </svg>
      <ol className={css.rows}>
        <li data-element="source" data-reads={view.source_reads}>
          <span>
            <strong>Source</strong> <span className="mute">{view.volts?.shown}</span>
          </span>
          {readable.includes("source") && <Field name={fieldOf(kind, "source")} />}
        </li>
        {view.elements.map((e) => (
          <li
            key={e.id}
            data-element={e.id}
            data-reads={e.reads}
            data-named={e.named}
            className={e.named ? css.named : ""}
          >
            <span>
              <strong>{e.name}</strong>{" "}
              {e.share >= 0.05 && <span className="mono">{Math.round(100 * e.share)} %</span>}
              <small className="mute">
                {[
                  e.bypassed ? "bypassed in hand" : "",
                  e.set_point && `set ${e.set_point}`,
                  STANDS[e.stands] ?? "",
                ]
                  .filter(Boolean)
                  .join(", ")}
                {kind !== "volts" && shown("volts", e.id) && ` ${shown("volts", e.id)} V to the common`}
                {kind !== "across" && shown("across", e.id) && ` ${shown("across", e.id)} V across`}
              </small>
            </span>
            {readable.includes(e.id) && <Field name={fieldOf(kind, e.id)} />}
          </li>
        ))}
      </ol>
    </div>
  );
}
const STANDS: Record<string, string | undefined> = {
  open: "right to be open",
  closed: "should be closed",
  either: "within its band",
};
function Field({ name }: { name: string }) {
  const { props, refused } = useFigure(name);
  return (
    <span className={refused ? "refused" : ""}>
      <FigureInput {...props} units={[]} />
    </span>
  );
}
/** An element on its wire: a contact, a button, a fuse, a coil; heavy where it may be the one that is open. */
export function Drawn({ element: e, top }: { element: Shape; top: number }) {
  const weight = 1.4 + 5 * Math.sqrt(e.share);
  const [a, b, middle] = [top, top + ROW, top + ROW / 2];
  const line = (d: string) => <path className={css.ink} strokeWidth={weight} d={d} />;
  const dot = <circle className={css.point} cx={35} cy={b} r={3.4} />;
  const shape = () => {
    if (e.kind === "fuse") return line(`M35 ${a}V${b}M27 ${middle - 13}h16v26h-16z`);
    if (e.kind === "coil")
      return (
        <>
          {line(`M35 ${a}V${middle - 12}M35 ${middle + 12}V${b}`)}
          <circle className={css.ink} cx={35} cy={middle} r={12} />
        </>
      );
    if (e.kind === "overload") return line(`M35 ${a}V${middle - 9}h11v18h-11V${b}`);
    const blade = `M35 ${a}V${middle - 10}M35 ${middle + 10}L29 ${middle - 11}M35 ${middle + 10}V${b}`;
    const head = ["estop", "stop", "start"].includes(e.kind)
      ? `M31 ${middle}H18M18 ${middle - 7}v14`
      : e.kind === "selector"
        ? `M31 ${middle}H20M20 ${middle - 5}l-6 5l6 5`
        : `M31 ${middle}H22a5 5 0 1 1 -10 0a5 5 0 1 1 10 0`;
    return line(blade + head);
  };
  return (
    <g className={e.bypassed ? css.bypassed : ""}>
      {shape()}
      {dot}
    </g>
  );
}
