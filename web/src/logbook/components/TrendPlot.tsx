/** One series over time: points as read, bounds as open arrows, limits, events; a table behind it. */
import { useEffect, useRef, useState } from "react";
import uPlot from "uplot";
import "uplot/dist/uPlot.min.css";
import { useMe, day, type Schemas } from "../../base";

type Trend = Schemas["TrendOut"];
const css = (name: string) => getComputedStyle(document.documentElement).getPropertyValue(name).trim();

function marks(trend: Trend): uPlot.Hooks.Arrays["draw"] {
  return [
    (u) => {
      const { ctx, bbox } = u;
      ctx.save();
      ctx.lineWidth = devicePixelRatio;
      ctx.textAlign = "left";
      ctx.textBaseline = "alphabetic";
      ctx.font = `${12 * devicePixelRatio}px "IBM Plex Sans Condensed"`;
      for (const l of trend.limits) {
        const y = u.valToPos(l.value, "y", true);
        if (y < bbox.top || y > bbox.top + bbox.height) continue;
        ctx.strokeStyle = ctx.fillStyle = css("--mute");
        ctx.setLineDash([6, 4]);
        ctx.beginPath();
        ctx.moveTo(bbox.left, y);
        ctx.lineTo(bbox.left + bbox.width, y);
        ctx.stroke();
        ctx.fillText(l.label, bbox.left + 4, y - 4 * devicePixelRatio);
      }
      ctx.setLineDash([2, 3]);
      for (const e of trend.events) {
        const x = u.valToPos(new Date(e.at).getTime() / 1000, "x", true);
        if (x < bbox.left || x > bbox.left + bbox.width) continue;
        ctx.strokeStyle = ctx.fillStyle = css("--accent");
        ctx.beginPath();
        ctx.moveTo(x, bbox.top);
        ctx.lineTo(x, bbox.top + bbox.height);
        ctx.stroke();
        ctx.fillText(e.kind.replace("_", " "), x + 3, bbox.top + 12 * devicePixelRatio);
      }
      ctx.restore();
    },
  ];
}

export function TrendPlot({ trend, zone, height = 158 }: { trend: Trend; zone: string; height?: number }) {
  const box = useRef<HTMLDivElement>(null);
  const me = useMe();
  const [table, setTable] = useState(false);
  const [near, setNear] = useState("");
  useEffect(() => {
    const host = box.current;
    if (!host) return;
    const width = () => Math.max(240, host.clientWidth);
    const axis = { stroke: css("--mute"), grid: { stroke: css("--hair"), width: 1 }, ticks: { show: false }, font: '12px "IBM Plex Sans Condensed"' };
    const values = trend.points.map((p) => p.value);
    const all = [...values, ...trend.limits.map((l) => l.value).filter((l) => l < Math.max(...values) * 1.6)];
    const pad = (Math.max(...all) - Math.min(...all) || 1) * 0.12;
    const plot = new uPlot(
      {
        width: width(), height, legend: { show: false }, cursor: { y: false, points: { size: 9 } },
        tzDate: (ts) => uPlot.tzDate(new Date(ts * 1000), zone),
        scales: { y: { range: [Math.min(...all) - pad, Math.max(...all) + pad] } },
        axes: [{ ...axis, space: 70 }, { ...axis, size: 46, space: 26 }],
        series: [{}, { stroke: css("--ink"), width: 1.2, points: { show: trend.points.length < 90, size: 5, fill: css("--sheet"), stroke: css("--ink") } }],
        hooks: {
          draw: marks(trend) ?? [],
          setCursor: [(u) => {
            const p = u.cursor.idx == null ? undefined : trend.points[u.cursor.idx];
            setNear(p ? `${p.shown}, ${day(new Date(p.t * 1000).toISOString(), zone, me.locale)}` : "");
          }],
        },
      },
      [trend.points.map((p) => p.t), values],
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
    <figure style={{ margin: "0 0 14px" }} data-measurand={trend.measurand}>
      <figcaption className="rowflex" style={{ justifyContent: "space-between" }}>
        <span><strong>{trend.title}</strong> <span className="mute">{trend.symbol}; {trend.conditions}</span></span>
        <span className="mono" aria-live="off">{near || last?.shown}</span>
      </figcaption>
      <div className="plot" ref={box} role="img" aria-label={`${trend.title}, ${trend.total} points, last ${last?.shown ?? ""}, ${trend.says}`} />
      <div className="rowflex mute" style={{ fontSize: "0.92rem" }}>
        <span>{trend.total} points; {trend.says}</span>
        <button className="linklike" aria-expanded={table} onClick={() => setTable(!table)}>{table ? "hide the figures" : "the figures"}</button>
      </div>
      {table && (
        <div className="scroll-x" style={{ maxHeight: 220, overflowY: "auto" }}>
          <table className="plain">
            <thead><tr><th>When</th><th>{trend.title}</th></tr></thead>
            <tbody>{[...trend.points].reverse().map((p) => <tr key={p.t}><td>{day(new Date(p.t * 1000).toISOString(), zone, me.locale)}</td><td className="mono">{p.shown}</td></tr>)}</tbody>
          </table>
        </div>
      )}
    </figure>
  );
}
