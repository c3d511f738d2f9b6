/** The pump set as a train on its centre line: the map of where you are. */
import { memo } from "react";
import type { ReactNode } from "react";
import { small } from "../../base";
import css from "../plant.module.scss";

export interface TrainPart {
  part: string;
  verdict: string;
  beside?: string | null | undefined;
}
/** Something that hangs on a part: drawn as a tag on its string, said beside it. */
export interface TrainTag {
  part?: string | undefined;
  verdict: string;
  title: string;
}
interface Props {
  kind: string;
  posture: string;
  slots: string[];
  control?: string;
  parts: TrainPart[];
  running?: boolean;
  pipe?: boolean;
  /** Drawn this wide; else at `scale` of its own size, so that trains beside each other compare. */
  width?: number;
  scale?: number;
  /** Room above for the pipe up to a header. */
  rise?: number;
  label: string;
  onPart?: (part: string) => void;
  tags?: TrainTag[];
  /** The part that is looked at: corners about it. */
  chosen?: string;
}

const WIDE: Record<string, number> = {
  supply: 22,
  interlock: 0,
  control: 34,
  motor: 62,
  mounts: 0,
  coupling: 34,
  bearings: 42,
  seal: 14,
  pump: 56,
};
const AXIS = 52;

/** Each part's drawing, its left edge at 0, its shaft at y 0. */
function Glyph({
  slot,
  control,
  set,
  kind,
}: {
  slot: string;
  control: string;
  set: string;
  kind: string;
}): ReactNode {
  switch (slot) {
    case "supply":
      return <path className={kind} d="M2-16V16M9-16V16M16-16V16" />;
    case "control":
      return (
        <g className={kind}>
          <path d="M2-15H30V15H2z" />
          <path
            d={
              control === "drive"
                ? "M2 15L30-15"
                : control === "soft_starter"
                  ? "M7 9H14L21-9H26"
                  : "M9 8V-1M9-1L19-9M21-8V-15M9 15V8"
            }
          />
        </g>
      );
    case "motor":
      return (
        <g className={kind}>
          <path d="M5-19H54Q58-19 58-15V15Q58 19 54 19H5Q1 19 1 15V-15Q1-19 5-19zM10-19V19M18-19V19M26-19V19M34-19V19M42-19V19M50-19V19" />
          <path d="M10 19V24H20V19M40 19V24H50V19" />
        </g>
      );
    case "coupling":
      return set === "inline_spring" ? (
        <path className={kind} d="M0 0H3M3-9V9M3 0L7-8L11 8L15-8L19 8L23-8L27 8L29 0M29-9V9M29 0H34" />
      ) : (
        <path className={kind} d="M0 0H3M3-10H11V10H3zM11-5H20V5H11zM20-10H28V10H20zM28 0H34" />
      );
    case "bearings":
      return <path className={kind} d="M4-12H34L40-6V6L34 12H4L0 6V-6zM9-12V12M29-12V12" />;
    case "seal":
      return <path className={kind} d="M3-9V9M8-9V9" />;
    case "pump":
      return WetEnd({ set, kind });
    default:
      return null;
  }
}

/** Each kind's wet end has its own silhouette. */
function WetEnd({ set, kind }: { set: string; kind: string }): ReactNode {
  switch (set) {
    case "inline_spring":
      return (
        <g className={kind}>
          <path d="M14-16V-34H34V-16M14 16V28H34V16M0-6H6M0 6H6" />
          <circle cx={24} cy={0} r={18} />
          <circle cx={24} cy={0} r={5} />
        </g>
      );
    case "vacuum":
      return (
        <g className={kind}>
          <circle cx={24} cy={0} r={20} />
          <circle cx={24} cy={4} r={12} />
          <path d="M24-8V16M12 4H36M44-6H54V-34M34-17V-34H44" />
        </g>
      );
    case "positive_displacement":
      return (
        <g className={kind}>
          <path d="M14-20H34A10 10 0 0 1 44-10V10A10 10 0 0 1 34 20H14A10 10 0 0 1 4 10V-10A10 10 0 0 1 14-20zM44-5H54V-34M44 7H54V14" />
          <circle cx={24} cy={-9} r={9} />
          <circle cx={24} cy={9} r={9} />
        </g>
      );
    default:
      return (
        <g className={kind}>
          <path d="M44 0A20 20 0 1 1 24-20H44V-34H54V-8Q54 20 24 20" />
          <circle cx={24} cy={0} r={5} />
        </g>
      );
  }
}

/** What a set stands on or in: a base plate, a receiver, a well. */
function Ground({ set, placed }: { set: string; placed: Placed[] }): ReactNode {
  const motor = placed.find((p) => p.slot === "motor");
  const pump = placed.find((p) => p.slot === "pump");
  if (!motor || !pump) return null;
  const [a, b] = [motor.x, pump.x + pump.w];
  if (set === "base_mounted")
    return <path className={css.ground} d={`M${a - 2} ${AXIS + 25}H${b}V${AXIS + 30}H${a - 2}z`} />;
  if (set === "condensate_return")
    return <path className={css.ground} d={`M${a} ${AXIS + 25}H${b + 2}V${AXIS + 36}H${a}z`} />;
  if (set === "submersible")
    return (
      <path
        className={css.ground}
        d={`M${pump.x - 12} ${motor.y + 4}V${pump.y + 42}H${pump.x + 54}V${pump.y + 16}M${pump.x - 12} ${motor.y + 14}q4-4 8 0`}
      />
    );
  return null;
}

/** The verdict's shape at a part: readable without its colour. */
function Mark({
  verdict,
  beside,
  w,
  top,
  bottom,
}: {
  verdict: string;
  beside: string;
  w: number;
  top: number;
  bottom: number;
}) {
  const c = w / 2;
  const wedge = `M${c - 7} ${top - 16}h14l-7 11z`;
  return (
    <g className={`v-${verdict}`}>
      {verdict === "good" && <path className={`thing ${css.heavy}`} d={`M${c - 6} ${bottom + 6}h12`} />}
      {verdict === "watch" && <path className="thing" d={wedge} />}
      {verdict === "act" && <path className={css.solid} d={wedge} />}
      {verdict === "stop" && (
        <path
          className={`thing ${small.thickStroke}`}
          strokeWidth={5}

          d={`M${c} ${top - 8}V${bottom + 8}M${c - 8} ${top - 8}h16M${c - 8} ${bottom + 8}h16`}
        />
      )}
      {verdict === "unknown" && (
        <text x={c} y={top - 5} textAnchor="middle" fontSize={15} fontWeight={600}>
          ?
        </text>
      )}
      {beside === "watch" && <path className="thing v-watch" d={`M${c + 8} ${top - 15}h11l-5.500 9z`} />}
    </g>
  );
}

function partOf(parts: TrainPart[], slot: string): TrainPart | undefined {
  return parts.find((p) => p.part === slot);
}

function lineClass(verdict: string | undefined): string {
  if (verdict === "unknown") return `thing ${css.dashed}`;
  return verdict && verdict !== "good" ? `thing ${css.heavy}` : "thing";
}

interface Placed {
  slot: string;
  x: number;
  y: number;
  w: number;
  turn: boolean;
}
/** Where each part stands: along one line, or motor over pump for the upright ones. */
function layout(
  posture: string,
  slots: string[],
): { placed: Placed[]; width: number; height: number; pumpTop: [number, number] } {
  const placed: Placed[] = [];
  let x = 6;
  if (posture === "flat") {
    for (const slot of slots) {
      const w = WIDE[slot] ?? 0;
      if (w) placed.push({ slot, x, y: AXIS, w, turn: false });
      x += w + (w ? 2 : 0);
    }
    return { placed, width: x + 8, height: 90, pumpTop: [x - 9, AXIS - 34] };
  }
  for (const slot of ["supply", "control"].filter((s) => slots.includes(s))) {
    const w = WIDE[slot] ?? 0;
    placed.push({ slot, x, y: AXIS, w, turn: false });
    x += w + 2;
  }
  const cx = x + 28;
  if (posture === "one_body") {
    placed.push(
      { slot: "motor", x: cx - 26, y: AXIS, w: 34, turn: false },
      { slot: "pump", x: cx + 8, y: AXIS, w: 30, turn: false },
    );
    return { placed, width: cx + 52, height: 86, pumpTop: [cx + 20, AXIS - 22] };
  }
  let y = -6;
  for (const slot of slots.filter((s) => ["motor", "coupling", "seal", "pump"].includes(s))) {
    const h = { motor: 42, coupling: 16, seal: 8, pump: 32 }[slot] ?? 0;
    placed.push({ slot, x: cx - 18, y, w: 36, turn: true });
    y += h;
  }
  return { placed, width: cx + 44, height: Math.max(86, y + 16), pumpTop: [cx + 32, y - 26] };
}

function Upright({ slot, kind }: { slot: string; kind: string }): ReactNode {
  switch (slot) {
    case "motor":
      return (
        <path
          className={kind}
          d="M4 0H32Q36 0 36 4V38H0V4Q0 0 4 0zM0 8H36M0 15H36M0 22H36M0 29H36M18 38V42"
        />
      );
    case "coupling":
      return <path className={kind} d="M8 0H28V5H8zM13 5H23V10H13zM8 10H28V15H8z" />;
    case "seal":
      return <path className={kind} d="M9 2H27M9 6H27" />;
    case "pump":
      return <path className={kind} d="M6 0H30V10H50V20H30V26L24 32H12L6 26zM6 10H30M6 18H30" />;
    default:
      return null;
  }
}
function OneBody({ slot, kind }: { slot: string; kind: string }): ReactNode {
  return slot === "motor" ? (
    <path className={kind} d="M34-18H10Q0-18 0-8V8Q0 18 10 18H34zM8-17V17M16-18V18M24-18V18" />
  ) : (
    <g className={kind}>
      <circle cx={13} cy={0} r={20} />
      <circle cx={13} cy={0} r={5} />
      <path d="M6-19V-30H20V-19M6 19V30H20V19" />
    </g>
  );
}

/** Where along the drawing (0 to 1) each part's middle stands, for callouts beneath it. */
export function partPlaces(posture: string, slots: string[]): Record<string, number> {
  const { placed, width } = layout(posture, slots);
  return Object.fromEntries(placed.map((p) => [p.slot, (p.x + p.w / 2) / width]));
}

export const Train = memo(function Train({
  kind: set,
  posture,
  slots,
  control = "",
  parts,
  running = true,
  pipe = false,
  width,
  scale = 1,
  rise = 0,
  label,
  onPart,
  tags = [],
  chosen = "",
}: Props) {
  const { placed, width: w, height, pumpTop } = layout(posture, slots);
  const upright = posture === "upright";
  const reach = posture === "upright" ? 0 : 22;
  const said =
    parts
      .filter((p) => p.verdict !== "good")
      .map((p) => `${p.part}: ${p.verdict}`)
      .join(", ") || "no findings recorded";
  const top = (upright ? -14 : 2) - rise / scale;
  const hung = hangings(tags, placed, slots);
  const full = (upright ? height + 18 : height + 2) + rise / scale + (hung.length && !upright ? 14 : 0);
  const drawn = width ?? w * scale;
  return (
    <svg
      className={css.train}
      viewBox={`0 ${top} ${w} ${full}`}
      width={drawn}
      height={(drawn * full) / w}
      role="img"
      aria-label={`${label}. ${said}${tags.length ? `. Open items: ${tags.map((t) => t.title).join(", ")}` : ""}`}
    >
      {posture === "flat" && <line className="centre" x1={26} x2={w - 36} y1={AXIS} y2={AXIS} />}
      <Ground set={set} placed={placed} />
      {pipe && (
        <path
          className={running ? css.pipe : `${css.pipe} ${css.standing}`}
          d={`M${set === "inline_spring" ? pumpTop[0] - 25 : pumpTop[0]} ${pumpTop[1]}V${top}`}
        />
      )}
      {posture !== "flat" && (
        <path
          className="thing"
          d={`M${(placed.find((p) => p.slot === "motor")?.x ?? 0) - 12} ${AXIS}H${placed.find((p) => p.slot === "motor")?.x ?? 0}V${AXIS}`}
        />
      )}
      {placed.map((p) => {
        const held = partOf(parts, p.slot);
        const kind = lineClass(held?.verdict);
        const h = { motor: 42, coupling: 16, seal: 8, pump: 32 }[p.slot] ?? 30;
        return (
          <g
            key={p.slot}
            transform={`translate(${p.x} ${p.y})`}
            className={held && held.verdict !== "good" ? `v-${held.verdict}` : ""}
            {...(onPart ? { onClick: () => onPart(p.slot), style: { cursor: "pointer" } } : {})}
          >
            {p.turn ? (
              <Upright slot={p.slot} kind={kind} />
            ) : posture === "one_body" && (p.slot === "motor" || p.slot === "pump") ? (
              <OneBody slot={p.slot} kind={kind} />
            ) : (
              <Glyph slot={p.slot} control={control} set={set} kind={kind} />
            )}
            {held &&
              (p.turn ? (
                <g transform={`translate(-26 ${h / 2 + 4})`}>
                  <Mark verdict={held.verdict} beside={held.beside ?? ""} w={20} top={4} bottom={0} />
                </g>
              ) : (
                <Mark
                  verdict={held.verdict}
                  beside={held.beside ?? ""}
                  w={posture === "one_body" && p.slot === "pump" ? 26 : p.slot === "pump" ? 48 : p.w}
                  top={-reach + (p.slot === "supply" || p.slot === "control" ? 4 : 0)}
                  bottom={p.slot !== "motor" ? 20 : set === "base_mounted" ? 28 : 24}
                />
              ))}
          </g>
        );
      })}
      {placed
        .filter((p) => p.slot === chosen)
        .map((p) => (
          <Corners key={p.slot} at={p} />
        ))}
      {hung.map((h, i) => (
        <g key={i} className={`${css.hangtag} v-${h.verdict}`} transform={`translate(${h.x} ${h.y})`}>
          <path className={css.string} d="M0-4V-12" />
          <path
            className={h.verdict === "act" || h.verdict === "stop" ? css.solid : "thing"}
            d="M0-6L5-2V11H-5V-2z"
          />
          <circle cx={0} cy={-1} r={1.4} className={css.hole} />
        </g>
      ))}
    </svg>
  );
});
/** You are here: four corners about the part. */
function Corners({ at: p }: { at: Placed }) {
  const h = p.turn ? ({ motor: 42, coupling: 16, seal: 8, pump: 32 }[p.slot] ?? 30) : 58;
  const [x0, y0] = [p.x - 2, p.turn ? p.y - 2 : p.y - 32];
  const [x1, y1] = [p.x + p.w + (p.turn ? 16 : 2), y0 + h + (p.turn ? 2 : 0)];
  const arm = 5;
  const corner = (x: number, y: number, dx: number, dy: number) =>
    `M${x} ${y + dy * arm}V${y}H${x + dx * arm}`;
  return (
    <path
      className={css.corners}
      d={corner(x0, y0, 1, 1) + corner(x1, y0, -1, 1) + corner(x0, y1, 1, -1) + corner(x1, y1, -1, -1)}
    />
  );
}
/** Where each tag hangs: beneath its part, side by side; on a part that is not drawn, beneath the supply. */
function hangings(
  tags: TrainTag[],
  placed: Placed[],
  slots: string[],
): { x: number; y: number; verdict: string }[] {
  const count: Record<string, number> = {};
  return tags.map((t) => {
    const part =
      placed.find((p) => p.slot === t.part) ?? placed.find((p) => p.slot === "supply") ?? placed[0];
    const n = (count[part?.slot ?? slots[0] ?? ""] = (count[part?.slot ?? slots[0] ?? ""] ?? 0) + 1);
    const turned = part?.turn ?? false;
    return {
      x: turned ? (part?.x ?? 0) + 62 + 13 * (n - 1) : (part?.x ?? 0) + (part?.w ?? 0) / 2 + 13 * (n - 1),
      y: turned ? (part?.y ?? 0) + 16 : AXIS + 40,
      verdict: t.verdict,
    };
  });
}
