/** The parts of a pump in section, each in its own hand: drawn about the shaft line, as wide and high as it is told. */
import css from "./parts.module.scss";

interface At {
  x: number;
  y: number;
  w: number;
  h: number;
}
type Drawn = (at: At) => string;
const box = (x: number, y: number, w: number, h: number) =>
  `M${String(x)} ${String(y)}h${String(w)}v${String(h)}h${String(-w)}Z`;
/** The same above and below the shaft line. */
const both = (_: At, draw: (up: 1 | -1) => string) => draw(1) + draw(-1);
const n = (v: number) => String(Math.round(v * 10) / 10);

const SHAPES: Record<string, Drawn> = {
  motor: ({ x, y, w, h }) =>
    box(x, y - h, w * 0.92, 2 * h) +
    [0.2, 0.4, 0.6, 0.8].map((k) => `M${n(x + w * k * 0.92)} ${n(y - h)}v${n(2 * h)}`).join("") +
    box(x + w * 0.92, y - h * 0.3, w * 0.08, h * 0.6),
  shaft: ({ x, y, w, h }) => box(x, y - h / 2, w, h),
  long_shaft: ({ x, y, w, h }) =>
    `M${n(x)} ${n(y - h / 2)}h${n(w * 0.2)}v${n(-h * 0.3)}h${n(w * 0.5)}v${n(h * 0.3)}h${n(w * 0.3)}v${n(h)}h${n(-w * 0.3)}v${n(h * 0.3)}h${n(-w * 0.5)}v${n(-h * 0.3)}h${n(-w * 0.2)}Z`,
  stepped_shaft: ({ x, y, w, h }) =>
    `M${n(x)} ${n(y - h)}h${n(w * 0.5)}v${n(h * 0.4)}h${n(w * 0.5)}v${n(h * 1.2)}h${n(-w * 0.5)}v${n(h * 0.4)}h${n(-w * 0.5)}Z` +
    `M${n(x + w * 0.7)} ${n(y - h * 0.4)}h${n(w * 0.3)}`,
  bracket: ({ x, y, w, h }) =>
    both(
      { x, y, w, h },
      (u) =>
        `M${n(x)} ${n(y - u * h * 0.35)}h${n(w * 0.35)}v${n(-u * h * 0.65)}h${n(w * 0.3)}v${n(u * h * 0.45)}h${n(w * 0.35)}v${n(u * h * 0.35)}h${n(-w)}Z`,
    ),
  seat: ({ x, y, w, h }) =>
    both(
      { x, y, w, h },
      (u) =>
        box(x, y - u * h * 0.7 - (u > 0 ? h * 0.3 : 0), w * 0.45, h * 0.3) +
        box(x + w * 0.45, y - u * h * 0.75 - (u > 0 ? h * 0.25 : 0), w * 0.55, h * 0.25),
    ),
  head: ({ x, y, w, h }) =>
    both(
      { x, y, w, h },
      (u) =>
        `M${n(x)} ${n(y - u * h)}v${n(u * h * 0.5)}h${n(w * 0.3)}v${n(-u * h * 0.5)}Z M${n(x + w * 0.3)} ${n(y - u * h * 0.55)}l${n(w * 0.15)} ${n(-u * h * 0.35)}l${n(w * 0.15)} ${n(u * h * 0.35)}l${n(w * 0.15)} ${n(-u * h * 0.35)}l${n(w * 0.25)} ${n(u * h * 0.2)}`,
    ),
  spring: ({ x, y, w, h }) =>
    `M${n(x)} ${n(y + h)}` +
    Array.from({ length: 7 }, (_, i) => `L${n(x + (w * (i + 1)) / 7)} ${n(y + (i % 2 ? h : -h))}`).join(""),
  spring_coupler: ({ x, y, w, h }) =>
    box(x, y - h, w * 0.22, 2 * h) +
    box(x + w * 0.78, y - h, w * 0.22, 2 * h) +
    both(
      { x, y, w, h },
      (u) =>
        `M${n(x + w * 0.22)} ${n(y - u * h * 0.6)}` +
        Array.from(
          { length: 6 },
          (_, i) => `l${n((w * 0.56) / 6)} ${n(u * (i % 2 ? -1 : 1) * h * 0.35)}`,
        ).join(""),
    ),
  wheel: ({ x, y, w, h }) =>
    both(
      { x, y, w, h },
      (u) =>
        `M${n(x)} ${n(y - u * h * 0.2)}v${n(-u * h * 0.8)}h${n(w * 0.3)}l${n(w * 0.25)} ${n(u * h * 0.6)}h${n(w * 0.45)}v${n(u * h * 0.2)}Z`,
    ),
  wear_ring: ({ x, y, w, h }) =>
    both({ x, y, w, h }, (u) => box(x, y - u * h * 0.85 - (u > 0 ? h * 0.15 : 0), w, h * 0.3)),
  washer: ({ x, y, w, h }) => box(x, y - h, w, 2 * h),
  nut: ({ x, y, w, h }) =>
    box(x, y - h, w, 2 * h) + `M${n(x)} ${n(y - h * 0.4)}h${n(w)}M${n(x)} ${n(y + h * 0.4)}h${n(w)}`,
  ring: ({ x, y, w, h }) =>
    `M${n(x + w / 2)} ${n(y - h)}a${n(Math.max(3, w / 2))} ${n(h)} 0 0 1 0 ${n(2 * h)}a${n(Math.max(3, w / 2))} ${n(h)} 0 0 1 0 ${n(-2 * h)}Z`,
  bolts: ({ x, y, w, h }) =>
    both(
      { x, y, w, h },
      (u) =>
        box(x, y - u * h * 0.86 - (u > 0 ? 7 : 0), w, 7) +
        box(x + w, y - u * h * 0.86 - (u > 0 ? 9 : -1), 5, 9),
    ),
  casing: ({ x, y, w, h }) =>
    both(
      { x, y, w, h },
      (u) =>
        `M${n(x)} ${n(y - u * h)}h${n(w * 0.3)}q${n(w * 0.5)} ${n(u * h * 0.1)} ${n(w * 0.5)} ${n(u * h * 0.55)}h${n(w * 0.2)}v${n(u * h * 0.16)}h${n(-w * 0.45)}v${n(-u * h * 0.4)}h${n(-w * 0.55)}Z`,
    ),
  ring_casing: ({ x, y, w, h }) =>
    both({ x, y, w, h }, (u) => box(x, y - u * h * 0.8 - (u > 0 ? h * 0.2 : 0), w, h * 0.2)) +
    box(x, y - h, w * 0.12, 2 * h),
  plate: ({ x, y, w, h }) =>
    box(x, y - h, w, 2 * h) + `M${n(x)} ${n(y - h * 0.5)}h${n(w)}M${n(x)} ${n(y + h * 0.5)}h${n(w)}`,
  hub: ({ x, y, w, h }) =>
    box(x, y - h, w * 0.45, 2 * h) + box(x + w * 0.45, y - h * 0.55, w * 0.55, h * 1.1),
  element: ({ x, y, w, h }) =>
    both(
      { x, y, w, h },
      (u) =>
        `M${n(x)} ${n(y - u * h * 0.5)}q${n(w / 2)} ${n(-u * h * 0.8)} ${n(w)} 0v${n(u * h * 0.25)}q${n(-w / 2)} ${n(-u * h * 0.7)} ${n(-w)} 0Z`,
    ),
  sleeve: ({ x, y, w, h }) =>
    both({ x, y, w, h }, (u) => box(x, y - u * h * 0.75 - (u > 0 ? h * 0.25 : 0), w, h * 0.3)),
  slinger: ({ x, y, w, h }) =>
    both(
      { x, y, w, h },
      (u) =>
        `M${n(x)} ${n(y - u * h * 0.4)}l${n(w * 1.6)} ${n(-u * h * 0.6)}h${n(w * 0.6)}l${n(-w * 1.2)} ${n(u * h * 0.6)}Z`,
    ),
  bearing: ({ x, y, w, h }) =>
    both(
      { x, y, w, h },
      (u) =>
        box(x, y - u * h * 0.45 - (u > 0 ? h * 0.55 : 0), w, h * 0.55) +
        `M${n(x + w / 2 - h * 0.17)} ${n(y - u * h * 0.72)}a${n(h * 0.17)} ${n(h * 0.17)} 0 1 0 ${n(h * 0.34)} 0a${n(h * 0.17)} ${n(h * 0.17)} 0 1 0 ${n(-h * 0.34)} 0`,
    ),
  cap: ({ x, y, w, h }) =>
    both(
      { x, y, w, h },
      (u) =>
        `M${n(x)} ${n(y - u * h * 0.3)}v${n(-u * h * 0.7)}h${n(w)}v${n(u * h * 0.25)}h${n(-w * 0.5)}v${n(u * h * 0.45)}Z`,
    ),
  frame: ({ x, y, w, h }) =>
    both(
      { x, y, w, h },
      (u) =>
        `M${n(x)} ${n(y - u * h * 0.7)}v${n(-u * h * 0.3)}h${n(w)}v${n(u * h * 0.3)}h${n(-w * 0.1)}v${n(-u * h * 0.12)}h${n(-w * 0.8)}v${n(u * h * 0.12)}Z`,
    ),
  key: ({ x, y, w, h }) => box(x, y - h / 2, w, h),
  guard: ({ x, y, w, h }) =>
    `M${n(x)} ${n(y + h)}v${n(-h)}q${n(w / 2)} ${n(-h * 1.4)} ${n(w)} 0v${n(h)}` +
    [0.25, 0.5, 0.75].map((k) => `M${n(x + w * k)} ${n(y - h * 0.4)}v${n(h * 1.2)}`).join(""),
  rotor: ({ x, y, w, h }) =>
    box(x + w * 0.12, y - h, w * 0.76, 2 * h) +
    box(x, y - h * 0.22, w, h * 0.44) +
    `M${n(x + w * 0.3)} ${n(y - h)}l${n(w * 0.12)} ${n(2 * h)}M${n(x + w * 0.55)} ${n(y - h)}l${n(w * 0.12)} ${n(2 * h)}`,
  gears: ({ x, y, w, h }) =>
    [-1, 1]
      .map(
        (u) =>
          `M${n(x)} ${n(y + u * h * 0.5)}` +
          Array.from({ length: 6 }, (_, i) => `l${n(w / 6)} ${n((i % 2 ? 1 : -1) * h * 0.35)}`).join(""),
      )
      .join("") + box(x, y - h, w, 2 * h),
  cutter: ({ x, y, w, h }) =>
    `M${n(x)} ${n(y)}l${n(w)} ${n(-h)}v${n(h * 0.6)}l${n(-w * 0.5)} ${n(h * 0.4)}l${n(w * 0.5)} ${n(h * 0.4)}v${n(h * 0.6)}Z`,
  foot: ({ x, y, w, h }) =>
    `M${n(x)} ${n(y + h)}l${n(w * 0.25)} ${n(-h)}h${n(w * 0.5)}l${n(w * 0.25)} ${n(h)}Z`,
  mounts: ({ x, y, w, h }) =>
    [0, 0.82]
      .map(
        (k) =>
          `M${n(x + w * k)} ${n(y)}a${n(w * 0.09)} ${n(h)} 0 1 0 ${n(w * 0.18)} 0a${n(w * 0.09)} ${n(h)} 0 1 0 ${n(-w * 0.18)} 0`,
      )
      .join(""),
  cradle: ({ x, y, w, h }) =>
    `M${n(x)} ${n(y + h * 0.4)}v${n(h * 0.6)}h${n(w)}v${n(-h * 0.6)}M${n(x + w * 0.1)} ${n(y + h)}v4M${n(x + w * 0.9)} ${n(y + h)}v4`,
  clip: ({ x, y, w, h }) => `M${n(x)} ${n(y)}v${n(-h)}q${n(w / 2)} -4 ${n(w)} 0v${n(h)}`,
  screw: ({ x, y, w, h }) => box(x, y - h, w, h) + `M${n(x)} ${n(y - h * 0.5)}h${n(w)}`,
  leads: ({ x, y, w, h }) =>
    [0, 0.5, 1].map((k) => `M${n(x + w * k)} ${n(y - h)}q${n(w * 0.4)} ${n(h)} 0 ${n(2 * h)}`).join(""),
  lines: ({ x, y, w, h }) =>
    `M${n(x)} ${n(y)}h${n(w * 0.4)}v${n(h)}M${n(x + w)} ${n(y)}h${n(-w * 0.4)}v${n(h)}`,
  plug: ({ x, y, w, h }) => box(x, y - h, w, h) + box(x + w * 0.25, y, w * 0.5, h * 0.5),
  box: ({ x, y, w, h }) => box(x, y - h, w, 2 * h) + box(x + w * 0.15, y - h * 0.8, w * 0.7, h * 1.6),
  board: ({ x, y, w, h }) =>
    box(x, y - h, w, 2 * h) +
    `M${n(x + w * 0.2)} ${n(y - h * 0.6)}h${n(w * 0.6)}M${n(x + w * 0.2)} ${n(y)}h${n(w * 0.6)}M${n(x + w * 0.2)} ${n(y + h * 0.6)}h${n(w * 0.6)}`,
  chamber: ({ x, y, w, h }) =>
    box(x, y - h, w, 2 * h) + `M${n(x)} ${n(y)}q${n(w / 4)} -5 ${n(w / 2)} 0t${n(w / 2)} 0`,
  fuses: ({ x, y, w, h }) =>
    [-0.7, 0, 0.7]
      .map((k) => box(x, y + h * k - h * 0.2, w, h * 0.4) + `M${n(x)} ${n(y + h * k)}h${n(w)}`)
      .join(""),
  fan: ({ x, y, w, h }) =>
    box(x, y - h, w, 2 * h) +
    `M${n(x)} ${n(y - h)}l${n(w)} ${n(2 * h)}M${n(x + w)} ${n(y - h)}l${n(-w)} ${n(2 * h)}`,
  contacts: ({ x, y, w, h }) =>
    [-0.7, 0, 0.7]
      .map(
        (k) =>
          `M${n(x)} ${n(y + h * k)}h${n(w * 0.3)}M${n(x + w * 0.7)} ${n(y + h * k)}h${n(w * 0.3)}M${n(x + w * 0.25)} ${n(y + h * k - 6)}h${n(w * 0.5)}`,
      )
      .join(""),
  stator: ({ x, y, w, h }) =>
    both(
      { x, y, w, h },
      (u) =>
        box(x, y - u * h * 0.55 - (u > 0 ? h * 0.45 : 0), w, h * 0.45) +
        `M${n(x - 4)} ${n(y - u * h * 0.75)}h4M${n(x + w)} ${n(y - u * h * 0.75)}h4`,
    ),
  stages: ({ x, y, w, h }) =>
    [0, 1, 2, 3]
      .map((k) =>
        both(
          { x, y, w, h },
          (u) =>
            `M${n(x + (w * k) / 4)} ${n(y - u * h * 0.2)}v${n(-u * h * 0.8)}l${n(w / 4 - 3)} ${n(u * h * 0.4)}v${n(u * h * 0.4)}Z`,
        ),
      )
      .join(""),
  wet_head: ({ x, y, w, h }) =>
    box(x, y - h, w * 0.7, 2 * h) +
    `M${n(x + w * 0.7)} ${n(y - h * 0.5)}h${n(w * 0.3)}v${n(h)}h${n(-w * 0.3)}` +
    `M${n(x + w * 0.12)} ${n(y - h)}v${n(2 * h)}`,
  rag: ({ x, y, w, h }) =>
    `M${n(x)} ${n(y)}q${n(w * 0.2)} ${n(-h * 1.4)} ${n(w * 0.5)} ${n(-h * 0.3)}t${n(w * 0.5)} ${n(-h * 0.4)}q${n(-w * 0.1)} ${n(h)} ${n(-w * 0.4)} ${n(h * 0.9)}t${n(-w * 0.6)} ${n(-h * 0.2)}Z`,
  chain: ({ x, y, w, h }) =>
    Array.from(
      { length: 4 },
      (_, i) => `M${n(x + w / 2 - 3)} ${n(y - h + (i * h) / 2)}a3 5 0 1 0 6 0a3 5 0 1 0 -6 0`,
    ).join(""),
  unit: ({ x, y, w, h }) => box(x, y - h, w, 2 * h),
};

export interface PartDrawn {
  shape: string;
  x: number;
  w: number;
  h: number;
  y: number;
}
/** One part at its place. Hatched where it is in the hand. */
export function Shape({
  drawn,
  scale,
  mid,
  hatch,
}: {
  drawn: PartDrawn;
  scale: number;
  mid: number;
  hatch: string;
}) {
  const at = {
    x: (drawn.x - drawn.w / 2) * scale,
    y: mid + drawn.y * 2.4,
    w: drawn.w * scale,
    h: drawn.h * 2.4,
  };
  const d = SHAPES[drawn.shape]?.(at) ?? box(at.x, at.y - at.h, at.w, 2 * at.h);
  return <path className={css.glyph} d={d} fill={hatch} />;
}
