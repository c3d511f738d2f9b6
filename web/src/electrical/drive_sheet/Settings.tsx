/** One group of settings: each on its own track, found and left beside what it ought to be. */
import { useTools } from "../../safety";
import { isShown, rowOf, type Row, type Setting, type Shown, type View } from "./rows";
import css from "./drawing.module.scss";

type Group = View["groups"][number];
interface Props {
  group: Group;
  shown: Shown;
  rows: readonly Row[];
  say: (id: string, word: "found" | "left" | "should" | "why" | "reason", text: string) => void;
}
export function Settings({ group, shown, rows, say }: Props) {
  const asked = group.rows.filter((s) => s.state !== "" && isShown(s, shown));
  const kept = group.rows.filter((s) => s.state === "" && isShown(s, shown));
  if (!asked.length && !kept.length) return null;
  return (
    <section className={css.group} data-group={group.id} aria-labelledby={`group-${group.id}`}>
      <h3 id={`group-${group.id}`}>
        {group.title}{" "}
        {group.asked > 0 && (
          <span className="mute">
            {group.right} of {group.asked} as they should be
          </span>
        )}
      </h3>
      {asked.map((s) => (
        <Line key={s.id} setting={s} row={rowOf(rows, s.id)} say={say} />
      ))}
      {kept.length > 0 && (
        <details className={css.kept} open={shown !== "all" || kept.some((s) => s.moved)}>
          <summary>
            Kept and compared: {kept.filter((s) => rowOf(rows, s.id).found).length} of {kept.length} read
          </summary>
          {kept.map((s) => (
            <Line key={s.id} setting={s} row={rowOf(rows, s.id)} say={say} />
          ))}
        </details>
      )}
    </section>
  );
}
interface LineProps {
  setting: Setting;
  row: Row;
  say: Props["say"];
}
function Line({ setting: s, row, say }: LineProps) {
  const off = s.state === "wrong" || s.state === "reasoned" || Boolean(row.left);
  return (
    <div className={css.line} data-setting={s.id} data-state={s.state} data-moved={s.moved || undefined}>
      <span className={css.title}>{s.title}</span>
      <Track setting={s} />
      <Value
        setting={s}
        label={`${s.title}, found`}
        text={row.found ?? ""}
        on={(t) => say(s.id, "found", t)}
      />
      <span className={css.should}>
        {s.own ? (
          <>
            <Value
              setting={s}
              label={`${s.title}, should be`}
              text={row.should ?? ""}
              on={(t) => say(s.id, "should", t)}
            />
            <input
              className={css.why}
              aria-label={`${s.title}, why it should be`}
              placeholder="per drawing, per book"
              maxLength={120}
              value={row.why ?? ""}
              onChange={(e) => say(s.id, "why", e.target.value)}
            />
          </>
        ) : (
          s.should && (
            <>
              <strong className="mono">{s.should}</strong> <span className="mute">{s.why}</span>
            </>
          )
        )}
        {s.moved && <em className={css.moved}>was {s.before}</em>}
      </span>
      {off && (
        <span className={css.left}>
          <Value
            setting={s}
            label={`${s.title}, left`}
            hint="left"
            text={row.left ?? ""}
            on={(t) => say(s.id, "left", t)}
          />
          {s.state !== "right" && (
            <input
              className={css.why}
              aria-label={`${s.title}, why left so`}
              placeholder="why left so"
              maxLength={120}
              value={row.reason ?? ""}
              onChange={(e) => say(s.id, "reason", e.target.value)}
            />
          )}
        </span>
      )}
    </div>
  );
}
/** Where it lies: the range it belongs in as a bar, as it was, found, and left on it. */
function Track({ setting: s }: { setting: Setting }) {
  const t = s.track;
  if (!t) return <span className={css.notrack} aria-hidden="true" />;
  const x = (at: number): number => 4 + at * 112;
  const low = x(t.low);
  return (
    <svg className={css.track} viewBox="0 0 120 26" aria-hidden="true">
      <path className={css.rule} d="M2 13H118" />
      <path className={css.range} d={`M${Math.min(low, x(t.high) - 3)} 13H${x(t.high)}`} />
      {t.before != null && <path className={css.before} d={`M${x(t.before)} 6V20`} />}
      {t.found != null && <path className={css.foundmark} d={`M${x(t.found)} 3V23`} />}
      {t.left != null && <circle className={css.leftmark} cx={x(t.left)} cy="13" r="5" />}
    </svg>
  );
}
interface ValueProps {
  setting: Setting;
  label: string;
  text: string;
  on: (text: string) => void;
  hint?: string;
}
function Value({ setting: s, label, text, on, hint = "" }: ValueProps) {
  const { may } = useTools();
  if (s.choices.length)
    return (
      <select
        className="inline-select"
        aria-label={label}
        value={text}
        onChange={(e) => may && on(e.target.value)}
      >
        <option value="">{hint || "?"}</option>
        {s.choices.map((c) => (
          <option key={c} value={c}>
            {c}
          </option>
        ))}
      </select>
    );
  return (
    <span className={css.value}>
      <input
        className="mono"
        aria-label={label}
        placeholder={hint}
        maxLength={40}
        autoComplete="off"
        readOnly={!may}
        value={text}
        onChange={(e) => on(e.target.value)}
      />
      <span className="mute">{s.unit}</span>
    </span>
  );
}
