/** What was read, at the place where it was read: the newest figure of each pair, faint when of another state. */
import { GROUND, legOf, newestAt, rungOf, type Layout, type Reading } from "./layout";
import css from "./drawing.module.scss";

interface Props {
  readings: readonly Reading[];
  layout: Layout;
  held: string;
  state: string;
}
export function Figures({ readings, layout, held, state }: Props) {
  return (
    <>
      {newestAt(readings)
        .filter((r) => [r.one, r.two].sort().join("|") !== held)
        .map((r) => (
          <Figure key={r.uuid} reading={r} layout={layout} faint={state !== "" && r.key !== state} />
        ))}
    </>
  );
}
const SHAPE: Record<string, string | undefined> = { part: css.part, zero: css.zero };

function Figure({ reading: r, layout, faint }: { reading: Reading; layout: Layout; faint: boolean }) {
  const a = layout.at(r.one);
  const b = layout.at(r.two);
  if (!a || !b) return null;
  const said = `${r.figure.shown}`;
  const look = [css.figure, SHAPE[r.reads], faint || !r.used ? css.faint : "", r.used ? "" : css.unused];
  const cls = look.filter(Boolean).join(" ");
  const to = (x: number, y: number, anchor: "start" | "middle" | "end", words = said) => (
    <g className={cls} data-reading={r.uuid}>
      <text className={css.number} x={x} y={y} textAnchor={anchor}>
        {words}
      </text>
      {!layout.narrow && anchor === "middle" && (
        <text className={css.tiny} x={x} y={y + 13} textAnchor="middle">
          {r.word}
        </text>
      )}
      <title>{`${r.word}, ${r.state}`}</title>
    </g>
  );
  const [one, two] = [legOf(r.one), legOf(r.two)];
  if (r.what === "amps") return to(a.x + 8, a.y - 4, "start");
  if (r.one === GROUND || r.two === GROUND) {
    const leg = r.one === GROUND ? b : a;
    return to(leg.x + 7, leg.y + 15, "start", `⏚ ${r.figure.figure}`);
  }
  if (one === two) return to(a.x - 14, (a.y + b.y) / 2 + 5, "end");
  if (rungOf(r.one) !== rungOf(r.two)) return to((a.x + b.x) / 2, (a.y + b.y) / 2, "middle");
  if (Math.abs(one - two) > 1)
    return to(
      layout.columns[layout.runOf(rungOf(r.one))]!.at(-1)! + 10,
      a.y + 5,
      "start",
      layout.narrow ? said : `${two}-${one} ${said}`,
    );
  const middle = (a.x + b.x) / 2;
  const half = layout.narrow ? 26 : 40;
  return (
    <>
      <path
        className={css.dimline}
        d={`M${a.x + 6} ${a.y}H${middle - half}M${middle + half} ${a.y}H${b.x - 6}`}
      />
      {to(middle, a.y + 6, "middle")}
    </>
  );
}
