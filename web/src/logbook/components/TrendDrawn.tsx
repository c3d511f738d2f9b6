/** One series over time: points as read, bounds as open arrows, limits, events; a table behind it. */
import { useEffect, useRef, useState } from "react";
import uPlot from "uplot";
import "uplot/dist/uPlot.min.css";
import { day, small, useMe, type Schemas } from "../../base";
import sheet from "../logbook.module.scss";
import { alongLine, besideLine, placeWords, type PlotWord } from "./plotWords";

type Trend = Schemas["TrendOut"];
const css = (name: string) => getComputedStyle(document.documentElement).getPropertyValue(name).trim();

/** Said by itself: with a capital, its full stop set by what follows. */
const sentence = (says: string) => says.charAt(0).toUpperCase() + says.slice(1).replace(/\.$/, "");

/** What is worth drawing on this axis: resistances run over decades, and a reading of nothing has no place on them. */
const onAxis = (trend: Trend, v: number) => (trend.log && v <= 0 ? null : v);

/** The points with a gap at every event between them: what lies before it belongs to another machine. */
function cutAtEvents(trend: Trend): { t: number; point: Trend["points"][number] | null }[] {
  const first = trend.points[0]?.t ?? 0;
  const last = trend.points.at(-1)?.t ?? 0;
  const cuts = trend.events
    .map((e) => ({ t: new Date(e.at).getTime() / 1000, point: null }))
    .filter((c) => c.t > first && c.t < last);
  return [...trend.points.map((p) => ({ t: p.t, point: p })), ...cuts].sort((a, b) => a.t - b.t);
}

/** The tenfolds between two values: the only lines a log axis needs. */
function decades(low: number, high: number): number[] {
  const out: number[] = [];
  for (let k = Math.ceil(Math.log10(low)); 10 ** k <= high; k++) out.push(10 ** k);
  return out.length ? out : [low];
}

function drawBounds(u: uPlot, trend: Trend, points: Trend["points"], colour: string) {
  const { ctx } = u;
  const r = devicePixelRatio;
  ctx.setLineDash([]);
  ctx.strokeStyle = colour;
  for (const p of points) {
    const value = onAxis(trend, p.value);
    if (p.bound === "exact" || value === null) continue;
    const [x, y] = [u.valToPos(p.t, "x", true), u.valToPos(value, "y", true)];
    const d = p.bound === "at_least" ? -1 : 1;
    ctx.beginPath();
    ctx.moveTo(x, y);
    ctx.lineTo(x, y + 13 * d * r);
    ctx.moveTo(x - 4 * r, y + 8 * d * r);
    ctx.lineTo(x, y + 13 * d * r);
    ctx.lineTo(x + 4 * r, y + 8 * d * r);
    ctx.moveTo(x - 4 * r, y);
    ctx.lineTo(x + 4 * r, y);
    ctx.stroke();
  }
}

/** Drawn inside the axes only: a twin's past may be longer than what is plotted here. */
function inside(u: uPlot, draw: () => void) {
  const { ctx, bbox } = u;
  ctx.save();
  ctx.beginPath();
  ctx.rect(bbox.left, bbox.top, bbox.width, bbox.height);
  ctx.clip();
  draw();
  ctx.restore();
}

/** Likely as a chain line, its band as two hairs: pencil, not ink. */
function drawPath(u: uPlot, trend: Trend) {
  const { ctx } = u;
  ctx.strokeStyle = css("--mute");
  for (const [which, dash] of [
    ["low", [2, 4]],
    ["high", [2, 4]],
    ["likely", [10, 3, 2, 3]],
  ] as const) {
    ctx.setLineDash(dash.map((d) => d * devicePixelRatio));
    ctx.beginPath();
    for (const p of trend.path) {
      const value = onAxis(trend, p[which]);
      if (value !== null) ctx.lineTo(u.valToPos(p.t, "x", true), u.valToPos(value, "y", true));
    }
    ctx.stroke();
  }
}

function drawTwin(u: uPlot, trend: Trend) {
  const { ctx } = u;
  ctx.setLineDash([]);
  ctx.strokeStyle = css("--line");
  for (const p of trend.twin?.points ?? []) {
    const value = onAxis(trend, p.value);
    if (value === null || p.bound !== "exact") continue;
    ctx.beginPath();
    ctx.arc(u.valToPos(p.t, "x", true), u.valToPos(value, "y", true), 2.5 * devicePixelRatio, 0, 7);
    ctx.stroke();
  }
  drawBounds(u, trend, trend.twin?.points ?? [], css("--line"));
}

/** The lines of limits and events, then their words, none over another. */
function drawLines(u: uPlot, trend: Trend) {
  const { ctx, bbox } = u;
  const r = devicePixelRatio;
  const right = bbox.left + bbox.width;
  const bottom = bbox.top + bbox.height;
  ctx.textAlign = "left";
  ctx.textBaseline = "top";
  ctx.font = `${12 * r}px "IBM Plex Sans Condensed"`;
  const words: (PlotWord & { text: string; colour: string })[] = [];
  const h = 14 * r;
  const line = (colour: string, dash: number[], from: [number, number], to: [number, number]) => {
    ctx.strokeStyle = colour;
    ctx.setLineDash(dash);
    ctx.beginPath();
    ctx.moveTo(...from);
    ctx.lineTo(...to);
    ctx.stroke();
  };
  for (const l of trend.limits) {
    const y = u.valToPos(l.value, "y", true);
    if (y < bbox.top || y > bottom) continue;
    const colour = css("--mute");
    line(colour, [6, 4], [bbox.left, y], [right, y]);
    const w = ctx.measureText(l.label).width;
    words.push({ text: l.label, colour, w, h, at: alongLine(y, w, h, bbox.left + 4, right - 2) });
  }
  for (const e of trend.events) {
    const x = u.valToPos(new Date(e.at).getTime() / 1000, "x", true);
    if (x < bbox.left || x > right) continue;
    const colour = css("--accent");
    line(colour, [2, 3], [x, bbox.top], [x, bottom]);
    const w = ctx.measureText(e.title).width;
    words.push({ text: e.title, colour, w, h, at: besideLine(x, w, h, bbox.top + 2, bottom) });
  }
  const room = { x: bbox.left, y: bbox.top, w: bbox.width, h: bbox.height };
  for (const [i, box] of placeWords(words, room).entries()) {
    const word = words[i];
    if (!box || !word) continue;
    ctx.fillStyle = word.colour;
    ctx.fillText(word.text, box.x, box.y + r);
  }
}

function marks(trend: Trend): uPlot.Hooks.Arrays["draw"] {
  return [
    (u) => {
      const { ctx } = u;
      ctx.save();
      ctx.lineWidth = devicePixelRatio;
      drawLines(u, trend);
      ctx.setLineDash([2, 3]);
      inside(u, () => drawTwin(u, trend));
      drawBounds(u, trend, trend.points, css("--ink"));
      inside(u, () => drawPath(u, trend));
      ctx.restore();
    },
  ];
}

export function TrendDrawn({ trend, zone, height = 158 }: { trend: Trend; zone: string; height?: number }) {
  const box = useRef<HTMLDivElement>(null);
  const me = useMe();
  const [table, setTable] = useState(false);
  const [near, setNear] = useState("");
  useEffect(() => {
    const host = box.current;
    if (!host) return;
    const width = () => Math.max(240, host.clientWidth);
    const axis = {
      stroke: css("--mute"),
      grid: { stroke: css("--hair"), width: 1 },
      ticks: { show: false },
      font: '12px "IBM Plex Sans Condensed"',
    };
    const values = trend.points.map((p) => onAxis(trend, p.value));
    const twin = (trend.twin?.points ?? []).map((p) => onAxis(trend, p.value));
    const limits = trend.limits.map((l) => l.value);
    const figures = values.filter((v): v is number => v !== null);
    const all = [
      ...figures,
      ...twin.filter((v): v is number => v !== null),
      ...(trend.floor ? limits : limits.filter((l) => l < Math.max(...figures) * 1.6)),
    ];
    const pad = (Math.max(...all) - Math.min(...all) || 1) * 0.12;
    const range: [number, number] = trend.log
      ? [Math.min(...all) / 1.8, Math.max(...all) * 2.4]
      : [Math.min(...all) - pad, Math.max(...all) + pad];
    const ahead = trend.path.map((p) => p.t);
    const plotted = cutAtEvents(trend);
    const times = plotted.map((p) => p.t);
    const plot = new uPlot(
      {
        width: width(),
        height,
        legend: { show: false },
        cursor: { y: false, points: { size: 9 } },
        tzDate: (ts) => uPlot.tzDate(new Date(ts * 1000), zone),
        scales: {
          x: { range: [Math.min(...times), Math.max(...times, ...ahead) + 86400] },
          y: { range, ...(trend.log ? { distr: 3, log: 10 } : {}) },
        },
        axes: [
          { ...axis, space: 70, size: 40 },
          {
            ...axis,
            size: 52,
            space: 26,
            ...(trend.log
              ? {
                  splits: (_u: uPlot, _i: number, low: number, high: number) => decades(low, high),
                  values: (_u: uPlot, ticks: (number | null)[]) =>
                    ticks.map((t) => (t === null ? "" : String(t))),
                }
              : {}),
          },
        ],
        series: [
          {},
          {
            stroke: css("--ink"),
            width: 1.2,
            spanGaps: false,
            points: { show: trend.points.length < 90, size: 5, fill: css("--sheet"), stroke: css("--ink") },
          },
        ],
        hooks: {
          draw: marks(trend) ?? [],
          setCursor: [
            (u) => {
              const p = u.cursor.idx == null ? null : plotted[u.cursor.idx]?.point;
              setNear(p ? `${p.shown}, ${day(new Date(p.t * 1000).toISOString(), zone, me.locale)}` : "");
            },
          ],
        },
      },
      [times, plotted.map((p) => (p.point?.bound === "exact" ? onAxis(trend, p.point.value) : null))],
      host,
    );
    const watch = new ResizeObserver(() => plot.setSize({ width: width(), height }));
    watch.observe(host);
    return () => {
      watch.disconnect();
      plot.destroy();
    };
  }, [trend, zone, height, me.locale, me.sheet]);
  const last = trend.points.at(-1);
  return (
    <figure className={small.plotOver} data-measurand={trend.measurand}>
      <figcaption className={`rowflex ${small.between}`}>
        <span>
          <strong>{trend.title}</strong>{" "}
          <span className="mute">
            {[[trend.symbol, trend.leg].filter(Boolean).join(", "), trend.conditions]
              .filter(Boolean)
              .join("; ")}
          </span>
        </span>
        <span className="mono" aria-live="off">
          {near || last?.shown}
        </span>
      </figcaption>
      <div
        className={sheet.plot}
        ref={box}
        role="img"
        aria-label={`${trend.title}, ${trend.total} points, last ${last?.shown ?? ""}, ${trend.says}`}
      />
      <div className={`rowflex mute ${small.smaller}`}>
        <span>
          {trend.partial
            ? `the newest ${trend.points.length} of ${trend.total} points`
            : `${trend.total} ${trend.total === 1 ? "point" : "points"}`}
          . {sentence(trend.says)}
          {trend.differs && (
            <>
              . Plotted separately: <strong>{trend.differs}</strong>
            </>
          )}
          {trend.twin &&
            (trend.twin.differs ? (
              <>
                . {trend.twin.tag} not comparable: {trend.twin.differs}
              </>
            ) : (
              <>
                . Faint: {trend.twin.tag}, {trend.twin.points.at(-1)?.shown}
              </>
            ))}
        </span>
        <button className="linklike" aria-expanded={table} onClick={() => setTable(!table)}>
          {table ? "Hide figures" : "Show figures"}
        </button>
      </div>
      {table && (
        <div className={`scroll-x ${small.tall220}`}>
          <table className="plain">
            <thead>
              <tr>
                <th>When</th>
                <th>{trend.title}</th>
              </tr>
            </thead>
            <tbody>
              {[...trend.points].reverse().map((p) => (
                <tr key={p.t}>
                  <td>{day(new Date(p.t * 1000).toISOString(), zone, me.locale)}</td>
                  <td className="mono">{p.shown}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </figure>
  );
}
