/** The windings behind their terminals, each with what it comes to; the fields stand where the probes go. */
import { Spot, type Schemas } from "../../base";
import { Placed } from "./Placed";
import { PAIRS, SINGLE } from "./sheet";
import css from "./drawing.module.scss";

type View = Schemas["ShownOhmsView"];
type Winding = View["windings"][number];
type At = readonly [number, number];

const HEIGHT = { wide: 380, narrow: 318 };
const CORNERS: At[] = [
  [0.5, 0.12],
  [0.83, 0.82],
  [0.17, 0.82],
];
const CENTRE: At = [0.5, 0.56];

/** Which two points a winding lies between, and where its figure stands. */
function between(joined: string, i: number): [At, At, At] {
  const [a, b] = [CORNERS[i]!, CORNERS[(i + 1) % 3]!];
  if (joined === "delta") {
    const mid: At = [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2];
    return [a, b, [mid[0] + (CENTRE[0] - mid[0]) * 0.45, mid[1] + (CENTRE[1] - mid[1]) * 0.4]];
  }
  const value: At[] = [
    [0.61, 0.28],
    [0.63, 0.79],
    [0.37, 0.79],
  ];
  return [a, CENTRE, value[i]!];
}

export function Terminals({ view, width }: { view: View; width: number }) {
  const narrow = width < 480;
  const height = narrow ? HEIGHT.narrow : HEIGHT.wide;
  const apart = view.joined === "apart";
  const px = ([x, y]: At): At => [x * width, y * height];
  const fields: At[] = apart
    ? [
        [0.18, 0.5],
        [0.5, 0.5],
        [0.82, 0.5],
      ]
    : [
        [0.83, 0.42],
        [0.5, 0.93],
        [0.17, 0.42],
      ];
  return (
    <Spot className={css.stage} at={{ width, height }}>
      <svg viewBox={`0 0 ${width} ${height}`} role="img" aria-label={said(view)}>
        {apart
          ? fields.map(([x], i) => (
              <Coil key={x} from={px([x, 0.1])} to={px([x, 0.36])} winding={view.windings[i]} />
            ))
          : view.windings.map((w, i) => {
              const [a, b] = between(view.joined, i);
              return <Coil key={w.where} from={px(a)} to={px(b)} winding={w} />;
            })}
        {!apart &&
          CORNERS.map((c, i) => {
            const [x, y] = px(c);
            return <circle key={i} className={css.terminal} cx={x} cy={y} r={6} />;
          })}
        {view.joined !== "delta" && !apart && view.windings.length > 0 && (
          <circle className={css.node} cx={px(CENTRE)[0]} cy={px(CENTRE)[1]} r={3.4} />
        )}
      </svg>
      {!apart &&
        CORNERS.map((c, i) => {
          const [x, y] = px([c[0], c[1]]);
          return (
            <Spot key={i} className={css.name} at={{ left: x, top: i === 0 ? y - 22 : y + 20 }}>
              L{i + 1}
            </Spot>
          );
        })}
      {view.windings.map((w, i) => {
        const [x, y] = px(apart ? [fields[i]![0], 0.68] : between(view.joined, i)[2]);
        return <Value key={w.where} winding={w} x={x} y={y} />;
      })}
      {PAIRS.map((name, i) => {
        const [x, y] = px(fields[i]!);
        return <Placed key={name} name={name} x={x} y={y} />;
      })}
    </Spot>
  );
}

const ROLES = ["common", "run", "start"];
export function SingleTerminals({ view, width }: { view: View; width: number }) {
  const narrow = width < 480;
  const height = narrow ? HEIGHT.narrow : HEIGHT.wide;
  const px = ([x, y]: At): At => [x * width, y * height];
  const fields: At[] = [
    [0.83, 0.42],
    [0.17, 0.42],
    [0.5, 0.93],
  ];
  return (
    <Spot className={css.stage} at={{ width, height }}>
      <svg viewBox={`0 0 ${width} ${height}`} role="img" aria-label={said(view)}>
        <Coil from={px(CORNERS[0]!)} to={px(CORNERS[1]!)} winding={undefined} />
        <Coil from={px(CORNERS[0]!)} to={px(CORNERS[2]!)} winding={undefined} />
        {CORNERS.map((c, i) => {
          const [x, y] = px(c);
          return <circle key={i} className={css.terminal} cx={x} cy={y} r={6} />;
        })}
      </svg>
      {CORNERS.map((c, i) => {
        const [x, y] = px(c);
        return (
          <Spot key={i} className={css.name} at={{ left: x, top: i === 0 ? y - 22 : y + 20 }}>
            {ROLES[i]}
          </Spot>
        );
      })}
      {SINGLE.map((name, i) => {
        const [x, y] = px(fields[i]!);
        return <Placed key={name} name={name} x={x} y={y} />;
      })}
    </Spot>
  );
}

function Value({ winding: w, x, y }: { winding: Winding; x: number; y: number }) {
  const text = w.open ? "open" : w.ohms?.shown;
  if (!text) return null;
  return (
    <Spot className={`mono ${css.comes} ${w.odd || w.open ? css.broken : ""}`} at={{ left: x, top: y }}>
      <span data-winding={w.where}>{text}</span>
    </Spot>
  );
}

/** A winding between two points: its leads, and four turns between them; open, it stands apart in the middle. */
function Coil({ from, to, winding }: { from: At; to: At; winding: Winding | undefined }) {
  const [ax, ay] = from;
  const [bx, by] = to;
  const length = Math.hypot(bx - ax, by - ay);
  const [ux, uy] = [(bx - ax) / length, (by - ay) / length];
  const turn = Math.min(22, length / 7);
  const start = (length - 4 * turn) / 2;
  const at = (s: number) => `${Math.round(ax + ux * s)} ${Math.round(ay + uy * s)}`;
  const arc = (n: number) => `A${turn / 2} ${turn / 2} 0 0 1 ${at(start + n * turn)}`;
  const look = winding?.open || winding?.odd ? `${css.ink} ${css.broken}` : css.ink;
  const d = winding?.open
    ? `M${at(0)}L${at(start)}${arc(1)}M${at(start + 3 * turn)}${arc(4)}L${at(length)}`
    : `M${at(0)}L${at(start)}${[1, 2, 3, 4].map(arc).join("")}L${at(length)}`;
  return <path className={look} d={d} />;
}
const said = (view: View) =>
  `Windings${view.joined ? `, ${view.joined}` : ""}: ${view.windings
    .map((w) => `${w.where} ${w.open ? "open" : (w.ohms?.shown ?? "not read")}`)
    .join(", ")}`;
