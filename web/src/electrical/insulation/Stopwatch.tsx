/** The honest stopwatch: the true second, the marks, then the discharge that cannot be dismissed early. */
import { useEffect, useState } from "react";
import { markNow, watch, type Clock, type Mark } from "./logic";
import { Act, small } from "../../base";
import css from "./drawing.module.scss";

export function useTick(on: boolean): number {
  const [, turn] = useState(0);
  useEffect(() => {
    if (!on) return;
    const timer = setInterval(() => turn((n) => n + 1), 250);
    return () => clearInterval(timer);
  }, [on]);
  return 0;
}
const markWord = (s: number) => (s < 60 ? `${s} s` : `${s / 60} min`);

/** The marks on a line of time, log as the paper is: taken, due, to come. */
export function MarkLine({
  marks,
  taken,
  elapsed,
  width,
}: {
  marks: Mark[];
  taken: number[];
  elapsed: number;
  width: number;
}) {
  const seconds = marks.map((m) => m.second);
  const last = seconds.at(-1) ?? 600;
  const top = Math.log(last);
  const x = (s: number) =>
    4 +
    (width - 8) * Math.max(0, Math.min(1, (Math.log(Math.max(s, 8)) - Math.log(8)) / (top - Math.log(8))));
  const { due } = markNow(marks, taken, elapsed);
  return (
    <svg className={css.markline} viewBox={`0 0 ${width} 40`} width={width} height={40} aria-hidden="true">
      <path className={css.base} d={`M4 14H${width - 4}`} />
      <path className={css.gone} d={`M4 14H${x(elapsed)}`} />
      {seconds.map((m) => (
        <path key={m} className={m === due ? css.due : css.tick} d={`M${x(m)} 7v14`} />
      ))}
      {[15, 30, 60, 120, 300, 600]
        .filter((m) => seconds.includes(m))
        .map((m) => (
          <text key={m} x={x(m)} y={36} textAnchor={m === last ? "end" : "middle"}>
            {markWord(m)}
          </text>
        ))}
      {taken.map((t) => (
        <circle key={t} className={css.dot} cx={x(t)} cy={14} r={4} />
      ))}
    </svg>
  );
}

interface Props {
  clock: Clock | null;
  now: () => Date;
  marks: Mark[];
  taken: number[];
  dischargeUntil: string | null;
  leg: string;
  may: boolean;
  width: number;
  onStart: () => void;
  onEnd: () => void;
  onDischarged: () => void;
}
export function Stopwatch(p: Props) {
  const { clock } = p;
  const running = clock !== null && clock.endedAt === null;
  const discharging = clock !== null && clock.endedAt !== null && clock.dischargedAt === null;
  useTick(running || discharging);
  const t = p.now().getTime();
  const elapsed = clock ? ((clock.endedAt ?? t) - clock.startedAt) / 1000 : 0;
  const { due, next } = markNow(p.marks, p.taken, elapsed);
  const left = p.dischargeUntil ? (Date.parse(p.dischargeUntil) - t) / 1000 : null;
  return (
    <div className={css.stopwatch} data-running={running} data-discharging={discharging}>
      <div className={`rowflex ${small.between}`}>
        <span
          className={`${css.bigtime} mono`}
          role="timer"
          aria-label={discharging ? "Discharging" : "Time since test start"}
        >
          {discharging && left !== null ? watch(Math.max(0, left)) : watch(elapsed)}
        </span>
        <span className={css.says}>
          {running &&
            (due !== null ? (
              <strong className="v-watch">Read now: {markWord(due)}</strong>
            ) : next !== null ? (
              <span className="mute">next at {markWord(next)}</span>
            ) : (
              <span className="mute">all reading times passed</span>
            ))}
          {discharging &&
            (left === null
              ? "Discharging. Keep leads grounded."
              : left > 0
                ? `Discharging ${p.leg}. Keep leads grounded.`
                : "Discharge time over. Take the leads off, then confirm.")}
          {!clock && (
            <span className="mute">
              Start test starts the timer. Readings can also be entered afterwards.
            </span>
          )}
        </span>
        {p.may &&
          (running ? (
            <button className="btn-ink" onClick={p.onEnd}>
              End test
            </button>
          ) : discharging ? (
            <Act
              waits={(left === null || left > 0) && "Waits for the discharge time."}
              onClick={p.onDischarged}
            >
              Confirm leads off: {p.leg}
            </Act>
          ) : (
            <button className="btn-ink" onClick={p.onStart}>
              Start test: {p.leg}
            </button>
          ))}
      </div>
      <MarkLine marks={p.marks} taken={p.taken} elapsed={clock ? elapsed : 0} width={p.width} />
    </div>
  );
}
