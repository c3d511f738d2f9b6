/** The ladder: legs from the source down, every element as it stands, what was read at its place, and suspicion as ink. */
import { memo } from "react";
import { Figures } from "./Figures";
import { GROUND, rungOf, type Element, type Layout, type Span, type View } from "./layout";
import { Symbol } from "./symbols";
import css from "./drawing.module.scss";

type Drawn = Pick<View, "elements" | "legs" | "spans" | "readings" | "ground" | "stands">;
interface Props {
  view: Drawn;
  layout: Layout;
  label: string;
  /** The pair whose figure is in hand: what was read there gives way to the field. */
  held?: string;
  /** The key of the state in hand: readings of another are faint. */
  state?: string;
  chosen?: string;
}

export const Ladder = memo(function Ladder({ view, layout, label, held, state, chosen }: Props) {
  const { legs } = layout;
  return (
    <svg
      className={css.ladder}
      viewBox={`0 0 ${layout.width} ${layout.height}`}
      width={layout.width}
      height={layout.height}
      role="img"
      aria-label={label}
    >
      {view.legs.map((name, i) => (
        <text key={name} className={css.leg} x={legs[i]} y={16} textAnchor="middle">
          {name}
        </text>
      ))}
      {legs.map((x) => (
        <path key={x} className={css.ink} d={`M${x} 22V44`} />
      ))}
      {view.elements.map((e) => (
        <Named key={e.id} element={e} layout={layout} chosen={e.id === chosen} />
      ))}
      {view.spans.map((s) => (
        <Drawn key={s.id} span={s} layout={layout} element={view.elements.find((e) => e.id === s.within)} />
      ))}
      {view.elements.map((e) => e.taps.map((t) => <Tap key={t.id} of={e} tap={t} layout={layout} />))}
      {[...layout.rungs].map(([rung, y]) =>
        legs.map((x, i) => <circle key={`${rung}.${i + 1}`} className={css.point} cx={x} cy={y} r={3.4} />),
      )}
      <End view={view} layout={layout} />
      {view.ground && <GroundSign layout={layout} />}
      <Figures readings={view.readings} layout={layout} held={held ?? ""} state={state ?? ""} />
    </svg>
  );
});

/** What an element is called, beside it; where its poles open together, a line through them. */
function Named({ element: e, layout, chosen }: { element: Element; layout: Layout; chosen: boolean }) {
  const rungs = [...layout.rungs].filter(([id]) => rungOf(`${id}.1`).split(".")[0] === e.id);
  if (!rungs.length) return null;
  const ys = rungs.map(([, y]) => y);
  const middle = (Math.min(...ys) + Math.max(...ys)) / 2;
  const gang = ["disconnect", "breaker", "contactor", "isolator", "relay", "plug"].includes(e.kind);
  const poles = e.legs.map((l) => layout.legs[l - 1]!);
  const state = e.closed === null || e.closed === undefined ? "" : e.closed ? "in" : "out";
  const lines = wrapped(e.name, layout.narrow ? 12 : 20);
  return (
    <g className={chosen ? css.chosen : ""}>
      {lines.map((line, i) => (
        <text key={line} className={css.name} x={0} y={middle + 4 + 14 * i - 7 * (lines.length - 1)}>
          {line}
        </text>
      ))}
      {state && (
        <text x={0} y={middle + 18 + 7 * (lines.length - 1)} className={css.tiny}>
          {e.crossed ? "reverse in" : state}
        </text>
      )}
      {gang && poles.length > 1 && ys.length > 1 && (
        <path className={css.gang} d={`M${poles[0]! - 6} ${middle}H${poles.at(-1)! - 6}`} />
      )}
    </g>
  );
}
/** A name in lines of so many letters. */
export function wrapped(name: string, most: number): string[] {
  const lines: string[] = [];
  for (const word of name.split(" ")) {
    const last = lines.at(-1);
    if (last !== undefined && last.length + word.length < most) lines[lines.length - 1] = `${last} ${word}`;
    else lines.push(word);
  }
  return lines.slice(0, 3);
}
function Drawn({ span, layout, element }: { span: Span; layout: Layout; element: Element | undefined }) {
  const a = layout.at(span.upper);
  const b = layout.at(span.lower);
  if (!a || !b) return null;
  const weight = Math.sqrt(span.share);
  const percent = Math.round(100 * span.share);
  // Through a second contactor the outer legs are exchanged.
  const to = element?.crossed ? layout.legs[layout.legs.length - span.leg]! : b.x;
  return (
    <g data-span={span.id} data-share={percent}>
      {element && !span.through ? (
        <Symbol
          kind={element.kind}
          x={a.x}
          top={a.y}
          bottom={b.y}
          to={to}
          closed={element.closed}
          weight={weight}
        />
      ) : (
        <path className={css.ink} strokeWidth={1.4 + 6 * weight} d={`M${a.x} ${a.y}L${to} ${b.y}`} />
      )}
      {percent >= 5 && (
        <text className={css.share} x={a.x + 16} y={(a.y + b.y) / 2 + 5}>
          {percent}&thinsp;%
        </text>
      )}
    </g>
  );
}
function Tap({ of, tap, layout }: { of: Element; tap: Element["taps"][number]; layout: Layout }) {
  const [a, b] = tap.legs.map((l) => layout.legs[l - 1]!);
  const y = layout.rungs.get(`${of.id}.out`);
  if (a === undefined || b === undefined || y === undefined) return null;
  const [middle, at] = [(a + b) / 2, y + 26];
  return (
    <g className={css.tap}>
      <path d={`M${a} ${at}H${middle - 16}M${middle + 16} ${at}H${b}`} />
      {tap.what === "heater" ? (
        <path d={`M${middle - 16} ${at - 5}h32v10h-32z`} />
      ) : (
        <path
          d={`M${middle - 16} ${at}a5.3 5 0 0 1 10.7 0a5.3 5 0 0 1 10.7 0a5.3 5 0 0 1 10.6 0M${middle - 15} ${at + 5}h30`}
        />
      )}
      <title>{tap.title}</title>
    </g>
  );
}
function End({ view, layout }: { view: Drawn; layout: Layout }) {
  const end = view.elements.at(-1);
  const last = [...layout.rungs.values()].at(-1) ?? 0;
  if (!end) return null;
  const { x, y } = layout.end;
  const round = end.kind === "motor";
  return (
    <g>
      {layout.legs.map((leg) => (
        <path
          key={leg}
          className={css.ink}
          d={
            round
              ? `M${leg} ${last}V${y - 34}L${x + Math.sign(leg - x) * 20} ${y - (leg === x ? 24 : 14)}`
              : `M${leg} ${last}V${y - 22}`
          }
        />
      ))}
      {round ? (
        <circle className={css.ink} cx={x} cy={y} r={24} />
      ) : (
        <path
          className={css.ink}
          d={`M${layout.legs[0]! - 18} ${y - 22}H${layout.legs.at(-1)! + 18}V${y + 22}H${layout.legs[0]! - 18}Z`}
        />
      )}
      <text className={css.leg} x={x} y={y + 5} textAnchor="middle">
        {round ? "M" : end.name}
      </text>
    </g>
  );
}
function GroundSign({ layout }: { layout: Layout }) {
  const { x, y } = layout.ground;
  return (
    <g data-point={GROUND}>
      <path
        className={css.ink}
        d={`M${x} ${y}v12M${x - 12} ${y + 12}h24M${x - 8} ${y + 17}h16M${x - 4} ${y + 22}h8`}
      />
      <circle className={css.point} cx={x} cy={y} r={3.4} />
      <text className={css.tiny} x={x} y={y + 38} textAnchor="middle">
        ground
      </text>
    </g>
  );
}
