/** Leads without marks: groups as tapes on lines, the test that comes next, and the marks as they are found. */
import type { EntryBody, Schemas } from "../../base";
import { NamedFigure, useTools } from "../../safety";
import css from "./drawing.module.scss";

type Body = EntryBody<"leads">;
type Test = NonNullable<Body["tests"]>[number];
type View = NonNullable<Schemas["ShownLeadsView"]["unmarked"]>;
interface Props {
  body: Body;
  say: (more: Partial<Body>) => void;
  view: View | null | undefined;
}
const testOf = (tests: readonly Test[], tied: string, to: string): Test | undefined =>
  tests.find((t) => t.tied === tied && t.to === to);

export function Unmarked({ body, say, view }: Props) {
  const { may } = useTools();
  const tests = body.tests ?? [];
  return (
    <details className={css.unmarked} open={Boolean(body.groups)}>
      <summary>Leads without marks: find them</summary>
      <p className="mute">
        All leads apart, a letter taped on each. Ohmmeter from lead to lead: those that read together are a
        group. In a group of three of a delta write the corner first: the lead with equal ohms to both others.
      </p>
      <div className="field">
        <label htmlFor="groups">Groups by ohmmeter, a slash between them</label>
        <input
          id="groups"
          className="mono"
          autoComplete="off"
          spellCheck={false}
          maxLength={200}
          placeholder="A B / C D / E F"
          readOnly={!may}
          value={body.groups ?? ""}
          onChange={(e) => say({ groups: e.target.value })}
        />
      </div>
      <NamedFigure name="test_volts" label="test supply between lines, low" />
      {view && <Groups view={view} />}
      {view?.asked ? (
        <Next key={`${view.asked.tied}.${view.asked.to}`} asked={view.asked} tests={tests} say={say} />
      ) : (
        view?.says && <p className={css.move}>{view.says}</p>
      )}
      {tests.length > 0 && (
        <button className="linklike" type="button" onClick={() => may && say({ tests: tests.slice(0, -1) })}>
          Take back the last of {tests.length} tests
        </button>
      )}
    </details>
  );
}
/** Each group a line of tapes joined as the winding joins them, its mark beside each tape once it is known. */
function Groups({ view }: { view: View }) {
  return (
    <div className={css.groups} role="group" aria-label="Groups of leads">
      {view.groups.map((g) => (
        <svg
          key={g.join("")}
          viewBox={`0 0 ${String(g.length * 66)} 52`}
          role="img"
          aria-label={g.join(", ")}
        >
          <path className={css.wire} d={`M24 18H${String(g.length * 66 - 42)}`} />
          {g.map((t, i) => (
            <g key={t}>
              <circle className={css.nut} cx={24 + i * 66} cy="18" r="15" />
              <text x={24 + i * 66} y="23" textAnchor="middle">
                {t}
              </text>
              <text className={css.mark} x={24 + i * 66} y="49" textAnchor="middle" data-tape={t}>
                {view.marks[t] ?? ""}
              </text>
            </g>
          ))}
        </svg>
      ))}
    </div>
  );
}
interface NextProps {
  asked: NonNullable<View["asked"]>;
  tests: readonly Test[];
  say: Props["say"];
}
/** The one test that comes next: what is tied, what is read, and its readings. */
function Next({ asked, tests, say }: NextProps) {
  const { may } = useTools();
  const now = testOf(tests, asked.tied, asked.to);
  const put = (more: Partial<Test>) => {
    if (!may) return;
    const next = { tied: asked.tied, to: asked.to, one: null, two: null, kicks: "", ...now, ...more };
    say({ tests: [...tests.filter((t) => t !== now), next] });
  };
  return (
    <section className={css.next} aria-label="Next test" data-next={`${asked.tied}-${asked.to}`}>
      <p className={css.move}>
        {asked.kicks ? `Battery: + on ${asked.tied}, − on ${asked.to}` : `Tie ${asked.tied} to ${asked.to}`}
      </p>
      {asked.kicks ? (
        <>
          <p>Meter + on the first lead each: {asked.reads.join(", ")}. At the moment of closing both kick</p>
          <div className={css.kicks}>
            {["alike", "opposite"].map((k) => (
              <button key={k} type="button" className="btn-line" onClick={() => put({ kicks: k })}>
                {k}
              </button>
            ))}
          </div>
        </>
      ) : (
        <form
          className={css.kicks}
          onSubmit={(e) => {
            e.preventDefault();
            const form = new FormData(e.currentTarget);
            const figure = (name: string) => {
              const text = form.get(name);
              return typeof text === "string" && text.trim() ? { text: text.trim(), unit: "V" } : null;
            };
            put({ one: figure("one"), two: figure("two") });
          }}
        >
          {asked.reads.map((r, i) => (
            <label key={r}>
              {r}, V
              <input
                name={i ? "two" : "one"}
                className="mono"
                inputMode="decimal"
                autoComplete="off"
                required
              />
            </label>
          ))}
          <button type="submit" className="btn-line">
            Enter readings
          </button>
        </form>
      )}
    </section>
  );
}
