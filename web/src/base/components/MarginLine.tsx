/** The one drawing of a verdict: an arrow from the limit to the value, the margin on it. */
import type { Schemas } from "../client";
import css from "../base.module.scss";

type Line = Schemas["ShownLine"];

/** Tick words that would run into each other drop to a second row. */
function rows(places: number[], reach: number): number[] {
  const ends = [-1e9, -1e9];
  return places.map((x) => {
    const row = x - (ends[0] ?? 0) >= reach ? 0 : 1;
    ends[row] = x;
    return row;
  });
}

export function MarginLine({ line, verdict, width = 400 }: { line: Line; verdict: string; width?: number }) {
  const words = width >= 160;
  const x = (at: number) => 8 + at * (width - 16);
  const [v, l] = [x(line.value_at), x(line.limit_at)];
  const ticks = [...line.ticks].sort((a, b) => a.at - b.at);
  const row = rows(
    ticks.map((t) => x(t.at)),
    62,
  );
  const low = words ? 30 : 12;
  const height = words ? low + 22 + (row.includes(1) ? 14 : 0) : 24;
  const open = line.bound !== "exact";
  // Half of the margin’s words, about: near an edge they are held there.
  const half = line.margin.length * 3.6;
  const beside = (v + l) / 2 < half ? -1 : (v + l) / 2 > width - half ? 1 : 0;
  const anchor = (at: number) => (at < 0.06 ? "start" : at > 0.94 ? "end" : "middle");
  const said = `${line.value.shown}; ${line.margin}; limits ${ticks.map((t) => `${t.label} ${t.shown}`).join(", ")}`;
  return (
    <svg
      className={`${css.marginline} v-${verdict}`}
      viewBox={`0 0 ${width} ${height}`}
      width={width}
      height={height}
      role="img"
      aria-label={said}
    >
      <line className={css.base} x1={8} x2={width - 8} y1={low} y2={low} />
      {ticks.map((t, i) => (
        <g key={t.limit}>
          <line
            className={t.governs ? css.gov : css.tick}
            x1={x(t.at)}
            x2={x(t.at)}
            y1={low - 7}
            y2={low + 7}
          />
          {words && (
            <text x={x(t.at)} y={low + 20 + (row[i] ?? 0) * 14} textAnchor={anchor(t.at)}>
              {t.label || t.shown}
              {t.overridden ? " ✎" : ""}
            </text>
          )}
        </g>
      ))}
      <path
        className="dim"
        d={`M${l} ${low - 7}V${low - 16}M${v} ${low - 7}V${low - 16}M${l} ${low - 12}H${v}`}
      />
      {open ? (
        <path
          className="dim"
          d={line.bound === "at_least" ? `M${v} ${low - 5}l7 5l-7 5` : `M${v} ${low - 5}l-7 5l7 5`}
        />
      ) : (
        <circle className={css.dot} cx={v} cy={low} r={4.5} />
      )}
      {words && (
        <text
          className={css.m}
          x={beside < 0 ? 4 : beside > 0 ? width - 4 : (v + l) / 2}
          y={low - 17}
          textAnchor={beside < 0 ? "start" : beside > 0 ? "end" : "middle"}
        >
          {line.margin}
        </text>
      )}
    </svg>
  );
}
