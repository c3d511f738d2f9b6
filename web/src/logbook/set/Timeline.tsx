/** Everything that happened to a set, and what is due, on one line; tapped, a kind stands alone. */
import { useLayoutEffect, useRef, useState } from "react";
import { benchPath, day, useMe, useSession, type Schemas } from "../../base";
import { useNavigate } from "react-router";
import { axisOf, placed, ticksOf, type Said } from "./timeline";
import css from "./set.module.scss";

export type Moment = Schemas["Moment"];
export type Kind = Moment["kind"] | "due" | "";
type Due = Schemas["DueOut"];

/** How it is called and counted, in the order in which it weighs. */
const KINDS: { kind: Exclude<Kind, "">; word: string }[] = [
  { kind: "record", word: "records" },
  { kind: "call", word: "calls" },
  { kind: "part", word: "repairs and parts" },
  { kind: "open", word: "open items" },
  { kind: "due", word: "due" },
];
/** Its height, and a row more where something hung on the set. */
const HIGH = 104;
const ROW = 16;
const LINE = 62;

const cut = (s: string) => (s.length > 26 ? `${s.slice(0, 25).trimEnd()}…` : s);

export function Timeline({
  setId,
  moments,
  older = false,
  due,
  zone,
  kind,
  setKind,
  part,
}: {
  setId: number;
  moments: Moment[];
  /** There are older records than these. */
  older?: boolean;
  due: Due[];
  zone: string;
  kind: Kind;
  setKind: (kind: Kind) => void;
  part: string;
}) {
  const host = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(0);
  useLayoutEffect(() => {
    const box = host.current;
    if (!box) return;
    const measure = () => setWidth(box.clientWidth);
    measure();
    const watch = new ResizeObserver(measure);
    watch.observe(box);
    return () => watch.disconnect();
  }, []);
  const counts = (k: Kind) => {
    const mine = moments.filter((m) => m.kind === k);
    if (k === "due") return String(due.filter((d) => d.at).length);
    if (k === "open" || k === "call") {
      const still = mine.filter((m) => !m.until).length;
      return still ? `${mine.length}, ${still} open` : String(mine.length);
    }
    return k === "record" && older ? `the newest ${mine.length}` : String(mine.length);
  };
  return (
    <div>
      <div className={css.kinds} role="group" aria-label="Show on the timeline">
        {KINDS.map((k) => (
          <button
            key={k.kind}
            className={css.kind}
            aria-pressed={kind === k.kind}
            onClick={() => setKind(kind === k.kind ? "" : k.kind)}
          >
            <svg width={16} height={16} viewBox="-8 -8 16 16" aria-hidden="true">
              <Mark kind={k.kind} />
            </svg>{" "}
            {k.word} <span className="mono">{counts(k.kind)}</span>
          </button>
        ))}
      </div>
      <div ref={host} className={css.timelinebox}>
        {width > 0 && (
          <Drawn
            setId={setId}
            moments={moments}
            due={due}
            zone={zone}
            width={width}
            inInk={(m) => (!kind || m.kind === kind) && (!part || m.part === part)}
          />
        )}
      </div>
    </div>
  );
}

/** The shape of a kind, its foot at nothing. */
function Mark({ kind }: { kind: Kind }) {
  switch (kind) {
    case "record":
      return <path className={css.tick} d="M0-6V6" />;
    case "call":
      return <path className={css.full} d="M-1 6V-7H7L4-4L7-1H1V6z" />;
    case "part":
      return <path className={css.open} d="M0-6L5 0L0 6L-5 0z" />;
    case "open":
      return <path className={css.open} d="M0-7L4-3V6H-4V-3z" />;
    default:
      return <circle className={css.open} r={4.5} />;
  }
}

function Drawn({
  setId,
  moments,
  due,
  zone,
  width,
  inInk,
}: {
  setId: number;
  moments: Moment[];
  due: Due[];
  zone: string;
  width: number;
  inInk: (m: { kind: Kind; part: string }) => boolean;
}) {
  const me = useMe();
  const go = useNavigate();
  const now = useSession().now().getTime();
  const times = moments.map((m) => Date.parse(m.at));
  const dues = due.flatMap((d) => (d.at ? [{ ...d, t: Date.parse(d.at) }] : []));
  const axis = axisOf(Math.min(now, ...times), now, Math.max(now, ...dues.map((d) => d.t)), width);
  const ahead = dues.filter((d) => d.t > now && d.t <= axis.until);
  const shown = moments.filter((m) => inInk(m));
  const newest = shown.filter((m) => m.kind === "record").at(-1);
  const said: Said[] = [
    ...shown
      .filter((m) => m.kind !== "record" || m === newest || m.verdict === "stop")
      .map((m) => ({
        x: axis.x(Date.parse(m.at)),
        rank: m.kind === "record" ? 1 : m.kind === "call" || m.kind === "part" ? 2 : 3,
        lines: [day(m.at, zone, me.locale), cut(m.title)] as [string, string],
      })),
    ...ahead
      .filter((d) => inInk({ kind: "due", part: d.part }))
      .map((d, i) => ({
        x: axis.x(d.t),
        rank: i ? 4 : 0,
        lines: [day(d.at ?? "", zone, me.locale), cut(d.title)] as [string, string],
      })),
  ];
  const words = placed(said, width);
  const label = `Timeline: ${moments.length} entries since ${day(new Date(axis.from).toISOString(), zone, me.locale)}, ${ahead.length} due`;
  const high = moments.some((m) => m.kind === "open") ? HIGH + ROW : HIGH;
  const end = axis.gap ? axis.gap[0] : axis.now;
  return (
    <svg className={css.timeline} width={width} height={high} role="img" aria-label={label}>
      <path className={css.past} d={`M2 ${LINE}H${end}`} />
      {axis.gap && (
        <path
          className={css.past}
          d={`M${axis.gap[0] - 4} ${LINE + 9}L${axis.gap[0] + 4} ${LINE - 9}M${axis.gap[1] - 4} ${LINE + 9}L${axis.gap[1] + 4} ${LINE - 9}M${axis.gap[1]} ${LINE}H${axis.now}`}
        />
      )}
      <path className={css.ahead} d={`M${axis.now} ${LINE}H${width - 4}`} />
      <path className={css.today} d={`M${axis.now} 30V${LINE + 18}`} />
      {ticksOf(axis, me.locale).map((t) => (
        <g key={t.word + t.x}>
          <path className={css.scale} d={`M${t.x} ${LINE + 8}V${LINE + 18}`} />
          <text className={css.date} x={t.x + 4} y={LINE + 22}>
            {t.word}
          </text>
        </g>
      ))}
      {moments.map((m, i) => (
        <Happened
          key={`${m.kind}${m.at}${i}`}
          moment={m}
          axis={axis}
          ink={inInk(m)}
          open={m.record === null ? undefined : () => void go(`/records/${m.record}`)}
        />
      ))}
      {ahead.map((d) => (
        <g
          key={d.bench}
          className={inInk({ kind: "due", part: d.part }) ? css.mark : `${css.mark} ${css.faint}`}
          transform={`translate(${axis.x(d.t)} ${LINE})`}
          onClick={() => void go(benchPath(setId, d.bench))}
        >
          <Mark kind="due" />
        </g>
      ))}
      {words.map((w) => (
        <g key={`${w.x}${w.lines[1]}`}>
          <text className={css.date} x={w.left} y={15}>
            {w.lines[0]}
          </text>
          <text className={css.said} x={w.left} y={31}>
            {w.lines[1]}
          </text>
          <path className={css.scale} d={`M${w.x} 36V${LINE - 9}`} />
        </g>
      ))}
      <text
        className={css.todayword}
        x={axis.now}
        y={high - 6}
        textAnchor={axis.now > width - 60 ? "end" : "middle"}
      >
        today
      </text>
    </svg>
  );
}

/** Its mark on the line; what has a length is drawn below it, until it was over or until today. */
function Happened({
  moment: m,
  axis,
  ink,
  open,
}: {
  moment: Moment;
  axis: ReturnType<typeof axisOf>;
  ink: boolean;
  open: (() => void) | undefined;
}) {
  const x = axis.x(Date.parse(m.at));
  const cls = ink ? css.mark : `${css.mark} ${css.faint}`;
  if (m.kind === "open")
    return (
      <g className={cls}>
        <path
          className={css.length}
          d={`M${x} ${LINE + 34}H${m.until ? axis.x(Date.parse(m.until)) : axis.now}`}
        />
        <g transform={`translate(${x} ${LINE + 34})`}>
          <Mark kind="open" />
        </g>
      </g>
    );
  const verdict = m.kind === "record" && m.verdict && m.verdict !== "good" ? ` v-${m.verdict}` : "";
  return (
    <g
      className={cls + verdict}
      transform={`translate(${x} ${m.kind === "call" ? LINE - 6 : LINE})`}
      onClick={open}
    >
      <Mark kind={m.kind} />
    </g>
  );
}
