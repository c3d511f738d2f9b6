/** The clock at the coupling, and the little figure that says where you stand. */
import { Fragment } from "react";
import { RadioGroup, Spot } from "../../base";
import { BenchFigure, useTools } from "../../safety";
import { at, mirrored, rings, STANDS, type Figure, type Hour, type Method, type Stand } from "./logic";
import css from "./drawing.module.scss";

const PLACES: Record<Hour, [number, number]> = { 12: [170, 26], 3: [300, 138], 6: [170, 262], 9: [40, 138] };
const INNER: Record<Hour, [number, number]> = { 12: [170, 92], 3: [226, 150], 6: [170, 204], 9: [114, 150] };
const OTHER: Record<Hour, Hour> = { 12: 12, 3: 9, 6: 6, 9: 3 };

/** Seen from behind the motor, or from the pump with 3 and 9 changed over. */
export function ClockFace({ method, stand = "behind" }: { method: Method; stand?: Stand }) {
  const { given } = useTools();
  const field = (name: Figure, words: string, className: string) => (
    <BenchFigure name={name} label={given.rules[name]?.label ?? words} className={className} />
  );
  const r = rings(method);
  const zero = <span className={`mono ${css.zero}`}>0</span>;
  const place = ([x, y]: [number, number]) => ({ left: `${(x / 340) * 100}%`, top: `${(y / 300) * 100}%` });
  const hours: Hour[] = [12, 3, 6, 9];
  const where = (h: Hour): Hour => (mirrored(stand) ? OTHER[h] : h);
  return (
    <div className={css.clockface} role="group" aria-label="Clock-position readings">
      <svg viewBox="0 0 340 300" aria-hidden="true">
        <circle cx={170} cy={150} r={84} className="thing" />
        <circle cx={170} cy={150} r={38} className={css.dimline} />
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
        <Fragment key={h}>
          <Spot className={css.onclock} at={place(PLACES[where(h)])}>
            {r.zeroed && h === 12 ? zero : field(at(r.outer, h), `${r.words[0]} at ${h}`, `mono ${css.big}`)}
          </Spot>
          {r.inner && (
            <Spot className={`${css.onclock} inner`} at={place(INNER[where(h)])}>
              {r.zeroed && h === 12 ? zero : field(at(r.inner, h), `${r.words[1]} at ${h}`, "mono")}
            </Spot>
          )}
        </Fragment>
      ))}
    </div>
  );
}
const WORDS = Object.fromEntries(STANDS) as Record<Stand, string>;
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
    <RadioGroup
      className={css.standhere}
      label="Where you stand"
      options={STANDS.map(([s]) => s)}
      value={stand}
      onChoose={onStand}
      named={(s) => WORDS[s]}
      optionClass={(s) => `${css.spot} ${css[s]}`}
    >
      <svg viewBox="0 0 166 64" width={166} height={64} aria-hidden="true">
        <path
          className="thing"
          d="M36 20H62V40H36zM62 27H74M62 33H74M74 24H79V36H74zM83 24H88V36H83zM88 27H96M88 33H96M96 18H132V42H96z"
        />
        <g className={css.stander} transform={`translate(${x} ${y})`}>
          <circle r={4.5} cy={-3} />
          <path d="M-7 8C-6 1 6 1 7 8" />
        </g>
      </svg>
      <span className={css.says}>you stand {WORDS[stand]}</span>
    </RadioGroup>
  );
}
