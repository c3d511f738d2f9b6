/** The ladder: legs from the source down, every element as it stands, what was read at its place, and suspicion as ink. */
import { memo } from "react";
import { Figures } from "./Figures";
import {
  acrossOf,
  elementOf,
  GROUND,
  rungOf,
  type Element,
  type Layout,
  type Span,
  type View,
} from "./layout";
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
      className={layout.columns.length > 1 && !layout.stacked ? `${css.ladder} ${css.close}` : css.ladder}
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
      <Stubs layout={layout} />
      {view.elements.map((e) => e.taps.map((t) => <Tap key={t.id} of={e} tap={t} layout={layout} />))}
      {[...layout.rungs].map(([rung, y]) =>
        layout.columns[layout.runOf(rung)]!.map((x, i) => (
          <circle key={`${rung}.${i + 1}`} className={css.point} cx={x} cy={y} r={3.4} />
        )),
      )}
      {layout.columns.map((_, run) => (
        <End key={run} view={view} layout={layout} run={run} />
      ))}
      {view.ground && <GroundSign layout={layout} />}
      <Figures readings={view.readings} layout={layout} held={held ?? ""} state={state ?? ""} />
    </svg>
  );
});

/** What an element is called, beside it; where its poles open together, a line through them; where it ties the legs
 * together, a bar; what passes no mains frequency, a box.
 */
function Named({ element: e, layout, chosen }: { element: Element; layout: Layout; chosen: boolean }) {
  const rungs = [...layout.rungs].filter(([id]) => elementOf(id) === e.id);
  if (!rungs.length) return null;
  const ys = rungs.map(([, y]) => y);
  const middle = (Math.min(...ys) + Math.max(...ys)) / 2;
  const gang = ["disconnect", "breaker", "contactor", "isolator", "relay", "plug"].includes(e.kind);
  const run = layout.runOf(rungs[0]![0]);
  const column = layout.columns[run]!;
  const poles = e.legs.map((l) => column[l - 1]!);
  // Beside the ladder the name stands on its own side.
  const x = run && !layout.stacked ? column.at(-1)! + 18 : 0;
  const boxed = ["drive", "soft_starter"].includes(e.kind) && ys.length > 1;
  const state = e.closed === null || e.closed === undefined ? "" : e.closed ? "in" : "out";
  const lines = wrapped(e.name, layout.narrow ? 12 : x ? 14 : 20);
  return (
    <g className={chosen ? css.chosen : ""}>
      {lines.map((line, i) => (
        <text key={line} className={css.name} x={x} y={middle + 4 + 14 * i - 7 * (lines.length - 1)}>
          {line}
        </text>
      ))}
      {state && (
        <text x={x} y={middle + 18 + 7 * (lines.length - 1)} className={css.tiny}>
          {e.crossed ? "reverse in" : state}
        </text>
      )}
      {gang && poles.length > 1 && ys.length > 1 && (
        <path className={css.gang} d={`M${poles[0]! - 6} ${middle}H${poles.at(-1)! - 6}`} />
      )}
      {boxed && (
        <path
          className={css.body}
          d={`M${column[0]! - 18} ${ys[0]! + 8}H${column.at(-1)! + 18}V${ys[1]! - 8}H${column[0]! - 18}Z`}
        />
      )}
      {e.joins && (
        <path className={css.ink} strokeWidth={2.6} d={`M${column[0]!} ${ys.at(-1)!}H${column.at(-1)!}`} />
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
  const across = acrossOf(layout, span);
  return (
    <g data-span={span.id} data-share={percent}>
      {element && !span.through ? (
        <Symbol
          kind={element.kind === "motor" ? "winding" : element.kind}
          x={a.x}
          top={a.y}
          bottom={b.y}
          to={to}
          closed={element.closed}
          weight={weight}
        />
      ) : (
        <path
          className={css.ink}
          strokeWidth={1.4 + 6 * weight}
          d={across?.line ?? `M${a.x} ${a.y}L${to} ${b.y}`}
        />
      )}
      {across?.branch && <circle className={css.branch} cx={across.branch.x} cy={across.branch.y} r={2.6} />}
      {element?.kind === "motor" && <WindingEnds leg={span.leg} x={a.x} top={a.y} bottom={b.y} />}
      {percent >= (layout.columns.length > 1 ? 10 : 5) && (
        <text className={css.share} {...shareAt(layout, span, across !== null)}>
          {percent}&thinsp;%
        </text>
      )}
    </g>
  );
}
/** What the two ends of a winding are marked. */
function WindingEnds({ leg, x, top, bottom }: { leg: number; x: number; top: number; bottom: number }) {
  const letter = "UVW"[leg - 1]!;
  return (
    <>
      <text className={css.tiny} x={x - 7} y={top + 13} textAnchor="end">{`${letter}1`}</text>
      <text className={css.tiny} x={x - 7} y={bottom - 4} textAnchor="end">{`${letter}2`}</text>
    </>
  );
}
/** Where the share of a span is written: beside its middle; of a wire to or from a path, at the path's end of it. */
function shareAt(layout: Layout, span: Span, across: boolean): { x: number; y: number } {
  const [a, b] = [layout.at(span.upper)!, layout.at(span.lower)!];
  // On a wire it keeps clear of the word beneath a figure at the rung above.
  if (!across) return { x: a.x + 16, y: (a.y + b.y) / 2 + (span.within ? 5 : 12) };
  return layout.runOf(rungOf(span.upper)) ? { x: a.x + 8, y: a.y + 24 } : { x: b.x + 8, y: b.y - 14 };
}
/** Where a path stands beneath the ladder: what its wires come from and go to. */
function Stubs({ layout }: { layout: Layout }) {
  if (!layout.stacked) return null;
  return layout.paths.map((p, i) => {
    const run = [...layout.rungs].filter(([id]) => layout.runOf(id) === i + 1);
    const [top, bottom] = [run[0]?.[1] ?? 0, run.at(-1)?.[1] ?? 0];
    return (
      <g key={p.leaves}>
        <text className={css.tiny} x={0} y={top - 44}>
          {`From ${p.begins}`}
        </text>
        {p.ends && (
          <text className={css.tiny} x={0} y={bottom + 66}>
            {`To ${p.ends}`}
          </text>
        )}
        {p.onto.map((word, n) => (
          <text key={word} className={css.tiny} x={layout.legs[n]} y={bottom + 48} textAnchor="middle">
            {word}
          </text>
        ))}
      </g>
    );
  });
}
function Tap({ of, tap, layout }: { of: Element; tap: Element["taps"][number]; layout: Layout }) {
  const column = layout.columns[layout.runOf(`${of.id}.out`)] ?? [];
  const [a, b] = tap.legs.map((l) => column[l - 1]);
  const y = layout.rungs.get(`${of.id}.out`);
  if (a === undefined || b === undefined || y === undefined) return null;
  const [middle, at] = [(a + b) / 2, y + 26];
  if (tap.what === "second_set") return <OtherSet column={column} y={at} title={tap.title} />;
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
/** Another set's motor, on every leg. */
function OtherSet({ column, y, title }: { column: readonly number[]; y: number; title: string }) {
  const [first, last] = [column[0]!, column.at(-1)!];
  return (
    <g className={css.tap}>
      <path d={`M${first} ${y}H${last + 22}`} />
      <circle cx={last + 32} cy={y} r={10} className={css.body} />
      <text className={css.tiny} x={last + 32} y={y + 4} textAnchor="middle">
        M
      </text>
      {column.map((x) => (
        <circle key={x} className={css.branch} cx={x} cy={y} r={2.2} />
      ))}
      <title>{title}</title>
    </g>
  );
}
function End({ view, layout, run }: { view: Drawn; layout: Layout; run: number }) {
  const [rung, last] = [...layout.rungs].filter(([id]) => layout.runOf(id) === run).at(-1) ?? ["", 0];
  const end = view.elements.find((e) => e.id === elementOf(rung));
  // What comes back to the ladder, or ends in a star point, ends at nothing of its own.
  if (!end || !rung.endsWith(".in")) return null;
  const { x, y } = layout.ends[run]!;
  const legs = layout.columns[run]!;
  const round = end.kind === "motor";
  const side = (leg: number) => (Math.abs(leg - x) < 3 ? 0 : Math.sign(leg - x));
  return (
    <g>
      {legs.map((leg) => (
        <path
          key={leg}
          className={css.ink}
          d={
            round
              ? `M${leg} ${last}V${y - 34}L${x + side(leg) * 20} ${y - (side(leg) ? 14 : 24)}`
              : `M${leg} ${last}V${y - 22}`
          }
        />
      ))}
      {round ? (
        <circle className={css.ink} cx={x} cy={y} r={24} />
      ) : (
        <path
          className={css.ink}
          d={`M${legs[0]! - 18} ${y - 22}H${legs.at(-1)! + 18}V${y + 22}H${legs[0]! - 18}Z`}
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
