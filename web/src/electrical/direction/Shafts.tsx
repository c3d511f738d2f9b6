/** The casing from the end with its arrow, and for each mode the shaft in it, turning as it was seen. */
import type { EntryBody, Schemas } from "../../base";
import { useTools } from "../../safety";
import css from "./drawing.module.scss";

type View = Schemas["DirectionView"];
type Mode = View["modes"][number];
export type Body = EntryBody<"direction">;
interface Props {
  view: View;
  body: Body;
  say: (more: Partial<Body>) => void;
}
const SEEN = [
  ["with", "with the arrow"],
  ["against", "against it"],
  ["not_seen", "not seen"],
] as const;

export function Shafts({ view, body, say }: Props) {
  return (
    <div className={css.shafts}>
      {view.modes.map((m) => (
        <div key={m.id} className={css.shaft} data-mode={m.id} data-now={m.now}>
          <strong>{m.title}</strong>
          <Casing arrow={view.arrow} mode={m} />
          {(m.before || body.exchanged_at || body.exchanged) && (
            <Words title="first seen" name={`before_${m.id}`} mode={m.title} body={body} say={say} />
          )}
          <Words
            title={m.before ? "now" : "seen"}
            name={`now_${m.id}`}
            mode={m.title}
            body={body}
            say={say}
          />
        </div>
      ))}
    </div>
  );
}
interface Said {
  title: string;
  name: string;
  mode: string;
  body: Body;
  say: (more: Partial<Body>) => void;
}
function Words({ title, name, mode, body, say }: Said) {
  const { may } = useTools();
  const said = (body as Record<string, string | null | undefined>)[name];
  return (
    <div className={css.seen} role="group" aria-label={`${mode}, ${title}`}>
      <span className="mute">{title}</span>
      {SEEN.map(([value, words]) => (
        <button
          key={value}
          type="button"
          className="btn-line"
          aria-pressed={said === value}
          onClick={() => may && say({ [name]: said === value ? null : value } as Partial<Body>)}
        >
          {words}
        </button>
      ))}
    </div>
  );
}
const R = 66;
/** An arc over the top, with its head where it ends. */
function turning(r: number, clockwise: boolean, sweep: number): string {
  const to = (sweep * Math.PI) / 180;
  const x = r * Math.sin(to);
  const y = -r * Math.cos(to);
  const s = clockwise ? 1 : -1;
  const along = [Math.cos(to) * s, Math.sin(to)] as const;
  const head = [-5, 5].map((side) => {
    const bx = s * x - along[0] * 12 + (s * x * side * 1.3) / r;
    const by = y - along[1] * 12 + (y * side * 1.3) / r;
    return `M${bx} ${by}L${s * x} ${y}`;
  });
  return `M${-s * x} ${y}A${r} ${r} 0 0 ${clockwise ? 1 : 0} ${s * x} ${y}${head.join("")}`;
}
function Casing({ arrow, mode }: { arrow: string; mode: Mode }) {
  const own = arrow === "cw";
  const shown = mode.now === "with" || mode.now === "against";
  return (
    <svg viewBox="-100 -96 200 192" role="img" aria-label={`Shaft ${mode.title}: ${wordsOf(mode)}`}>
      <path className={css.casing} d={`M0 ${-R - 12}A${R + 12} ${R + 12} 0 1 0 ${R + 12} 0V-90H${R - 16}`} />
      {arrow ? (
        <path className={css.arrow} d={turning(R + 22, own, 40)} />
      ) : (
        <text className={css.none} y="-40">
          no arrow
        </text>
      )}
      <circle className={css.disc} r="34" />
      <path className={css.key} d="M-5 -34V-24H5V-34" />
      {shown && arrow && (
        <path
          className={mode.now === "with" ? css.with : css.against}
          d={turning(48, (mode.now === "with") === own, 78)}
        />
      )}
      {!shown && (
        <text className={css.none} y="6">
          ?
        </text>
      )}
    </svg>
  );
}
const wordsOf = (m: Mode): string =>
  m.now === "with" ? "with the arrow" : m.now === "against" ? "against the arrow" : "not seen";
