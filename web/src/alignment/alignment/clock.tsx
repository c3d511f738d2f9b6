/** The clock at the coupling, and the little figure that says where you stand. */
import type { ReactNode } from "react";
import { at, mirrored, rings, STANDS, type Figure, type Hour, type Method, type Stand } from "./logic";

const PLACES: Record<Hour, [number, number]> = { 12: [170, 26], 3: [300, 138], 6: [170, 262], 9: [40, 138] };
const INNER: Record<Hour, [number, number]> = { 12: [170, 92], 3: [226, 150], 6: [170, 204], 9: [114, 150] };
const OTHER: Record<Hour, Hour> = { 12: 12, 3: 9, 6: 6, 9: 3 };

/** Seen from behind the motor, or from the pump with 3 and 9 changed over. `field` draws one figure where it is read. */
export function ClockFace({
  method,
  stand = "behind",
  field,
}: {
  method: Method;
  stand?: Stand;
  field: (name: Figure, label: string, big: boolean) => ReactNode;
}) {
  const r = rings(method);
  const hours: Hour[] = [12, 3, 6, 9];
  const where = (h: Hour): Hour => (mirrored(stand) ? OTHER[h] : h);
  return (
    <div className="clockface" role="group" aria-label="Readings at the clock">
      <svg viewBox="0 0 340 300" aria-hidden="true">
        <circle cx={170} cy={150} r={84} className="thing" />
        <circle cx={170} cy={150} r={38} className="dimline" />
        <path className="centre" d="M170 52V248M72 150H268" />
        {hours.map((h) => (
          <text
            key={h}
            x={{ 12: 222, 3: 300, 6: 222, 9: 40 }[where(h)]}
            y={{ 12: 32, 3: 108, 6: 268, 9: 108 }[where(h)]}
            textAnchor="middle"
          >
            {h}
          </text>
        ))}
      </svg>
      {hours.map((h) => (
        <span key={h}>
          <span
            className="onclock"
            style={{
              left: `${(PLACES[where(h)][0] / 340) * 100}%`,
              top: `${(PLACES[where(h)][1] / 300) * 100}%`,
            }}
          >
            {r.zeroed && h === 12 ? (
              <span className="mono zero">0</span>
            ) : (
              field(at(r.outer, h), `${r.words[0]} at ${h}`, true)
            )}
          </span>
          {r.inner && (
            <span
              className="onclock inner"
              style={{
                left: `${(INNER[where(h)][0] / 340) * 100}%`,
                top: `${(INNER[where(h)][1] / 300) * 100}%`,
              }}
            >
              {r.zeroed && h === 12 ? (
                <span className="mono zero">0</span>
              ) : (
                field(at(r.inner, h), `${r.words[1]} at ${h}`, false)
              )}
            </span>
          )}
        </span>
      ))}
    </div>
  );
}
const SPOTS: Record<Stand, [number, number]> = {
  behind: [150, 30],
  pump: [16, 30],
  left: [82, 56],
  right: [82, 8],
};
/** The set from above; the figure stands where you put it, and drawing, clock and list turn to match. */
export function StandHere({ stand, onStand }: { stand: Stand; onStand: (s: Stand) => void }) {
  const [x, y] = SPOTS[stand];
  return (
    <div className="standhere" role="radiogroup" aria-label="Where you stand">
      <svg viewBox="0 0 166 64" width={166} height={64} aria-hidden="true">
        <path
          className="thing"
          d="M36 20H62V40H36zM62 27H74M62 33H74M74 24H79V36H74zM83 24H88V36H83zM88 27H96M88 33H96M96 18H132V42H96z"
        />
        <g className="stander" transform={`translate(${x} ${y})`}>
          <circle r={4.5} cy={-3} />
          <path d="M-7 8C-6 1 6 1 7 8" />
        </g>
      </svg>
      {STANDS.map(([s, words]) => (
        <button
          key={s}
          role="radio"
          aria-checked={stand === s}
          aria-label={words}
          className={`spot ${s}`}
          onClick={() => onStand(s)}
        />
      ))}
      <span className="says">you stand {STANDS.find(([s]) => s === stand)?.[1]}</span>
    </div>
  );
}
