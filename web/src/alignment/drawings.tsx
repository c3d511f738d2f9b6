/** The clock at the coupling, and the two shafts from the side and from above. */
import type { ReactNode } from "react";
import type { Schemas } from "../base";
import { at, rings, type Figure, type Hour, type Method } from "./logic";

type Shaft = Schemas["ShownShaft"];
const PLACES: Record<Hour, [number, number]> = { 12: [170, 26], 3: [300, 138], 6: [170, 262], 9: [40, 138] };
const INNER: Record<Hour, [number, number]> = { 12: [170, 92], 3: [226, 150], 6: [170, 204], 9: [114, 150] };

/** Seen from behind the motor. `field` draws one figure where it is read. */
export function ClockFace({ method, field }: { method: Method; field: (name: Figure, label: string, big: boolean) => ReactNode }) {
  const r = rings(method);
  const hours: Hour[] = [12, 3, 6, 9];
  return (
    <div className="clockface" role="group" aria-label="Readings at the clock">
      <svg viewBox="0 0 340 300" aria-hidden="true">
        <circle cx={170} cy={150} r={84} className="thing" /><circle cx={170} cy={150} r={38} className="dimline" />
        <path className="centre" d="M170 52V248M72 150H268" />
        {hours.map((h) => <text key={h} x={{ 12: 222, 3: 300, 6: 222, 9: 40 }[h]} y={{ 12: 32, 3: 108, 6: 268, 9: 108 }[h]} textAnchor="middle">{h}</text>)}
        <g className="stander" transform="translate(316 250)"><circle cx={0} cy={-24} r={6} /><path d="M0-18V2M-9-12L0-8L9-12M0 2L-6 16M0 2L6 16" /></g>
        <text x={336} y={296} textAnchor="end">you stand behind the motor</text>
      </svg>
      {hours.map((h) => (
        <span key={h}>
          <span className="onclock" style={{ left: `${(PLACES[h][0] / 340) * 100}%`, top: `${(PLACES[h][1] / 300) * 100}%` }}>{r.zeroed && h === 12 ? <span className="mono zero">0</span> : field(at(r.outer, h), `${r.words[0]} at ${h}`, true)}</span>
          <span className="onclock inner" style={{ left: `${(INNER[h][0] / 340) * 100}%`, top: `${(INNER[h][1] / 300) * 100}%` }}>{r.zeroed && h === 12 ? <span className="mono zero">0</span> : field(at(r.inner, h), `${r.words[1]} at ${h}`, false)}</span>
        </span>
      ))}
    </div>
  );
}

const X = (x: number) => 176 + x * 300;
const Y = (y: number, high: number) => high / 2 - (y - 0.5) * (high - 30);
/** One plane: the pump stands still, the motor's axis as it is read, exaggerated; what each foot asks for beneath it. */
export function ShaftDrawing({ shaft, title, ask }: { shaft: Shaft; title: string; ask: string }) {
  const high = 150;
  const mid = high / 2;
  const [c, f, r] = ["coupling", "front", "rear"].map((n) => shaft.points.find((p) => p.name === n));
  const known = shaft.known && c && f && r;
  const target = Y(shaft.target, high);
  const tilt = known ? (Math.atan2(Y(r.y, high) - Y(f.y, high), X(r.x) - X(f.x)) * 180) / Math.PI : 0;
  const cx = known ? (X(f.x) + X(r.x)) / 2 : 0;
  const cy = known ? (Y(f.y, high) + Y(r.y, high)) / 2 : 0;
  const long = known ? X(r.x) - X(f.x) + 56 : 0;
  const words = known ? `${title}: ${c.shown} at the coupling` : `${title}: not read`;
  return (
    <svg className="shafts" viewBox={`0 0 520 ${high + 30}`} role="img" aria-label={words}>
      <text x={4} y={14} className="title">{title}</text>
      {known && <text x={516} y={14} textAnchor="end">drawn {shaft.times} times</text>}
      <path className="centre" d={`M8 ${mid}H512`} />
      <path className="thing" d={`M22 ${mid - 32}H92L108 ${mid - 18}V${mid + 18}L92 ${mid + 32}H22zM108 ${mid - 6}H146M108 ${mid + 6}H146M146 ${mid - 24}H160V${mid + 24}H146z`} />
      <text x={58} y={mid + 4} textAnchor="middle">pump, fixed</text>
      {known ? (
        <>
          {Math.abs(target - mid) > 0.5 && <path className="target" d={`M170 ${target}H500`} />}
          <g className="motor">
            <path className="axis" d={`M${X(c.x) - 4} ${Y(c.y, high)}L${X(r.x) + 34} ${Y(r.y, high) + ((Y(r.y, high) - Y(f.y, high)) / (X(r.x) - X(f.x))) * 34}`} />
            <g transform={`translate(${X(c.x)} ${Y(c.y, high)}) rotate(${tilt})`}><path className="thing" d="M0-24H14V24H0z" /></g>
            <g transform={`translate(${cx} ${cy}) rotate(${tilt})`}><path className="thing" d={`M${-long / 2}-34H${long / 2}V34H${-long / 2}z`} /></g>
          </g>
          {[f, r].map((p) => <g key={p.name}><path className="foot" d={`M${X(p.x)} ${high - 4}v10M${X(p.x) - 16} ${high + 6}h32`} /><text x={p === r ? 516 : X(p.x)} y={high + 24} textAnchor={p === r ? "end" : "middle"} className="ask">{p.shown} {ask}</text></g>)}
        </>
      ) : <text x={330} y={mid - 10} textAnchor="middle" className="unread">this plane is not read</text>}
    </svg>
  );
}
