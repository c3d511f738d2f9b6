/** The terminal box as it hangs there: lines, nuts, leads. A nut is chosen, a lead tapped into it or dragged onto it. */
import { useRef, type PointerEvent } from "react";
import { Spot } from "../../base";
import { useTools } from "../../safety";
import { nameOf, nutAt, put, type Nut, type Place, type Stand } from "./nuts";
import css from "./drawing.module.scss";

interface Props {
  nuts: readonly Nut[];
  marks: string;
  stand: Stand;
  chosen: number;
  onChoose: (nut: number) => void;
  onBox: (nuts: Nut[]) => void;
}
const hexagon = ({ x, y }: Place, r = 17) =>
  `M${Array.from({ length: 6 }, (_, k) => {
    const a = (Math.PI / 3) * k;
    return `${x + r * Math.cos(a)} ${y + r * Math.sin(a)}`;
  }).join("L")}Z`;

/** From clear of the lead's name, in a bow, to its nut. */
function wireOf(p: Place, to: Place): string {
  const t = 20 / Math.hypot(to.x - p.x, to.y - p.y);
  const from = { x: p.x + (to.x - p.x) * t * 0.4, y: p.y + (to.y - p.y) * t };
  return `M${from.x} ${from.y}Q${p.x * 0.75 + to.x * 0.25} ${p.y * 0.35 + to.y * 0.65} ${to.x} ${to.y}`;
}

export function Hung({ nuts, marks, stand, chosen, onChoose, onBox }: Props) {
  const { may, narrow } = useTools();
  const ground = useRef<HTMLDivElement>(null);
  const from = useRef<Place | null>(null);
  const dragged = useRef(false);
  const drop = (lead: number) => (e: PointerEvent<HTMLButtonElement>) => {
    const box = ground.current?.getBoundingClientRect();
    const start = from.current;
    dragged.current = Boolean(start && Math.hypot(e.clientX - start.x, e.clientY - start.y) > 14);
    if (!box || !may || !dragged.current) return;
    const scale = stand.width / box.width;
    const at = nutAt(stand, { x: (e.clientX - box.left) * scale, y: (e.clientY - box.top) * scale });
    if (at < 0 || nuts[at]?.leads.includes(lead)) return;
    onChoose(Math.min(at, nuts.length));
    onBox(put(nuts, lead, at));
  };
  const nutOf = (lead: number) => nuts.findIndex((n) => n.leads.includes(lead));
  const titleOf = (i: number) => nuts[i]?.line || (i >= nuts.length ? "New nut" : `Nut ${i + 1}`);
  const inside = (i: number) => nuts[i]?.leads.map((l) => nameOf(l, marks)).join(" ") ?? "";
  return (
    <div ref={ground} className={css.stand}>
      <Spot at={{ width: stand.width, height: stand.height }}>
        <svg
          className={css.box}
          viewBox={`0 0 ${stand.width} ${stand.height}`}
          width={stand.width}
          height={stand.height}
          role="img"
          aria-label="Terminal box"
        >
          {stand.lines.map((p, i) => (
            <path key={i} className={css.line} d={`M${p.x} ${p.y}L${stand.nuts[i]!.x} ${stand.nuts[i]!.y}`} />
          ))}
          {stand.leads.map((p, i) => {
            const at = nutOf(i + 1);
            const to = stand.nuts[at];
            return to ? (
              <path
                key={i}
                className={at === chosen ? css.held : css.wire}
                data-lead={i + 1}
                data-nut={at}
                d={wireOf(p, to)}
              />
            ) : (
              <circle key={i} className={css.loose} cx={p.x} cy={p.y - 16} r={3} />
            );
          })}
          {stand.nuts.map((p, i) => (
            <path
              key={i}
              className={i >= nuts.length ? css.fresh : i === chosen ? css.chosen : css.nut}
              d={hexagon(p)}
            />
          ))}
        </svg>
      </Spot>
      {stand.nuts.map((p, i) => (
        <Spot key={i} className={css.nutbutton} at={{ left: p.x, top: p.y }}>
          <button
            type="button"
            aria-pressed={i === chosen}
            aria-label={`${titleOf(i)}: ${inside(i) || "nothing yet"}`}
            onClick={() => may && onChoose(i)}
          >
            {nuts[i]?.line || (i >= nuts.length ? "+" : "")}
          </button>
        </Spot>
      ))}
      {stand.leads.map((p, i) => (
        <Spot key={i} className={narrow ? css.leadname : css.leadbutton} at={{ left: p.x, top: p.y }}>
          {narrow ? (
            <span className={nutOf(i + 1) === chosen ? css.here : ""}>{nameOf(i + 1, marks)}</span>
          ) : (
            <button
              type="button"
              aria-pressed={nutOf(i + 1) === chosen}
              onPointerDown={(e) => {
                from.current = { x: e.clientX, y: e.clientY };
                e.currentTarget.setPointerCapture(e.pointerId);
              }}
              onPointerUp={drop(i + 1)}
              onClick={() => {
                // What was dragged is not tapped as well.
                if (may && !dragged.current) onBox(put(nuts, i + 1, chosen));
                dragged.current = false;
              }}
            >
              {nameOf(i + 1, marks)}
            </button>
          )}
        </Spot>
      ))}
    </div>
  );
}
