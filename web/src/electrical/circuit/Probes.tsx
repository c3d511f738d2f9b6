/** The two probe tips on the ladder, and the field that hangs between them: dragged, tapped or led by the arrow keys. */
import { useRef, useState, type KeyboardEvent, type PointerEvent } from "react";
import { FigureInput, Spot } from "../../base";
import { fieldId, useFigure, useTools } from "../../safety";
import { fieldAt, step, type Layout } from "./layout";
import type { Quantity, Walk } from "./walk";
import css from "./drawing.module.scss";

type Tip = "one" | "two";
const NAMES: Record<Tip, string> = { one: "First probe", two: "Second probe" };
const TOUCH = 30;

export function Probes({ walk, layout }: { walk: Walk; layout: Layout }) {
  const { narrow } = useTools();
  const ground = useRef<HTMLDivElement>(null);
  const [active, setActive] = useState<Tip>("one");
  const { one, two } = walk.probes;
  const single = walk.quantity === "amps";
  const field = fieldAt(layout, one, single ? one : two);
  const put = (tip: Tip, point: string) => walk.place({ ...walk.probes, [tip]: point });
  const pointAt = (e: { clientX: number; clientY: number }) => {
    const box = ground.current!.getBoundingClientRect();
    const scale = layout.width / box.width;
    return layout.nearest({ x: (e.clientX - box.left) * scale, y: (e.clientY - box.top) * scale });
  };
  const tap = (e: PointerEvent) => {
    if (e.target !== ground.current) return;
    const { point, away } = pointAt(e);
    if (away > TOUCH) return;
    if (!one) walk.place({ one: point, two: point });
    else put(single ? "one" : active, point);
    setActive(one && active === "two" ? "one" : "two");
  };
  const tips: Tip[] = single ? ["one"] : ["one", "two"];
  return (
    <div className={css.probes} ref={ground} onPointerUp={tap}>
      {field && (
        <svg className={css.leads} viewBox={`0 0 ${layout.width} ${layout.height}`} aria-hidden="true">
          {tips.map((t) => {
            const p = layout.at(walk.probes[t]);
            return (
              p && <path key={t} className={css.lead} d={`M${p.x} ${p.y + 7}L${field.x} ${field.y + 6}`} />
            );
          })}
        </svg>
      )}
      {!field && (
        <Spot className={`mute ${css.tapped}`} at={{ left: layout.names, top: layout.height - 30 }}>
          Tap two points to read between them.
        </Spot>
      )}
      {tips.map((t) => {
        const at = layout.at(walk.probes[t]);
        const title = walk.titleOf(walk.probes[t]);
        return (
          at && (
            <Spot key={t} className={css.tip} at={{ left: at.x, top: at.y }}>
              <button
                type="button"
                aria-label={`${NAMES[t]}: ${title}. Arrow keys move it.`}
                data-probe={walk.probes[t]}
                className={active === t ? css.inhand : ""}
                onFocus={() => setActive(t)}
                onKeyDown={(e: KeyboardEvent) => {
                  if (!e.key.startsWith("Arrow") || e.ctrlKey || e.altKey || e.metaKey) return;
                  e.preventDefault();
                  put(t, step(layout, walk.probes[t], e.key));
                }}
                onPointerDown={(e) => {
                  setActive(t);
                  e.currentTarget.setPointerCapture(e.pointerId);
                }}
                onPointerMove={(e) => {
                  if (!e.currentTarget.hasPointerCapture(e.pointerId)) return;
                  const { point } = pointAt(e);
                  if (point && point !== walk.probes[t]) put(t, point);
                }}
              />
            </Spot>
          )
        );
      })}
      {field && (
        <Spot
          className={narrow ? `${css.meter} ${css.narrow}` : css.meter}
          at={{ left: field.x, top: field.y }}
        >
          {walk.waits ? <p className={css.waits}>{walk.waits}</p> : <Field name={walk.quantity} />}
        </Spot>
      )}
    </div>
  );
}
function Field({ name }: { name: Quantity }) {
  const { narrow } = useTools();
  const { props, refused } = useFigure(name);
  return (
    <span className={refused ? "refused" : ""} data-field={fieldId(name)}>
      <FigureInput {...props} className="mono" unitClass="unit" {...(narrow ? { units: [] } : {})} />
      {narrow && <span className="mute">{props.symbols?.[props.unit] ?? props.unit}</span>}
    </span>
  );
}
