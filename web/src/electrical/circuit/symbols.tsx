/** One pole of an element between two points of a leg, as it stands; suspicion is the weight of its ink. */
import css from "./drawing.module.scss";

interface Props {
  kind: string;
  x: number;
  top: number;
  bottom: number;
  /** Where this leg comes out. */
  to: number;
  closed: boolean | null | undefined;
  weight: number;
}
export function Symbol({ kind, x, top, bottom, to, closed, weight }: Props) {
  const ink = 1.4 + 4 * weight;
  const middle = (top + bottom) / 2;
  const line = (d: string) => <path className={css.ink} strokeWidth={ink} d={d} />;
  if (kind === "fuse")
    return (
      <>
        {line(`M${x} ${top}V${bottom}`)}
        <rect className={css.body} x={x - 8} y={top + 6} width={16} height={bottom - top - 12} />
        {weight > 0 && (
          <rect
            className={css.suspect}
            x={x - 8 * weight}
            y={top + 6}
            width={16 * weight}
            height={bottom - top - 12}
          />
        )}
      </>
    );
  // A winding, from its start to its end.
  if (kind === "winding") return line(`M${x} ${top}V${middle - 15}${"a5 5 0 0 1 0 10".repeat(3)}V${bottom}`);
  // In its box, which is drawn once for all legs.
  if (kind === "drive" || kind === "soft_starter") return line(`M${x} ${top}v8M${x} ${bottom - 8}v8`);
  if (kind === "overload") return line(`M${x} ${top}V${middle - 9}h11v18h-11V${bottom}`);
  if (kind === "plug")
    return line(`M${x} ${top}V${middle - 5}M${x - 6} ${middle + 2}a6 6 0 0 1 12 0M${x} ${middle}V${bottom}`);
  // A blade: in, it touches; out, it stands off; what is worked by hand is drawn closed.
  const out = closed === false;
  const blade = out ? `L${x - 11} ${middle - 9}` : `L${x - 2} ${middle - 10}`;
  const lead = to === x ? `M${x} ${middle + 10}V${bottom}` : `M${x} ${middle + 10}L${to} ${bottom}`;
  const sign =
    kind === "breaker"
      ? `M${x - 5} ${middle - 15}l10 10M${x + 5} ${middle - 15}l-10 10`
      : kind === "contactor" || kind === "relay"
        ? `M${x - 5} ${middle - 10}a5 5 0 0 1 10 0`
        : `M${x - 6} ${middle - 10}h12`;
  return line(`M${x} ${top}V${middle - 10}M${x} ${middle + 10}${blade}${lead}${sign}`);
}
