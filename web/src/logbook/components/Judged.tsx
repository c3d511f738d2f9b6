/** A whole evaluation: what is wrong in full, what is good in short, what it means, what it waits for. */
import { small, VerdictWord, type Schemas, type Shown } from "../../base";
import { FindingBox } from "./FindingBox";
import { VerdictNews } from "./VerdictNews";
import css from "../logbook.module.scss";

type Advice = Schemas["ShownAdvice"];
/** What the pattern points at, where a bench tells it. */
const adviceOf = (answer: Shown): Advice[] => (answer.view as { advice?: Advice[] } | null)?.advice ?? [];

export function Judged({
  answer,
  before = false,
  heading = true,
}: {
  answer: Shown;
  before?: boolean;
  heading?: boolean;
}) {
  const loud = answer.findings.filter((f) => f.verdict !== "good");
  const good = answer.findings.filter((f) => f.verdict === "good");
  return (
    <div className={before ? css["stale-answer"] : ""} aria-busy={before} data-testid="judged">
      <VerdictNews answer={answer} before={before} />
      {heading && answer.findings.length > 0 && (
        <p className={small.verdictLine} data-verdict={answer.verdict}>
          <VerdictWord verdict={answer.verdict} beside={answer.beside} />
          {before && <span className="mute"> for the previous figures</span>}
        </p>
      )}
      {adviceOf(answer).map((a) => (
        <div key={a.cause} className={`${css.advicebox} v-${answer.verdict}`} data-cause={a.cause}>
          <p>
            <strong>{a.says}</strong>
          </p>
          {a.changes.length > 0 && (
            <p>
              <span className="lab">Will help: </span>
              {a.changes.join(" ")}
            </p>
          )}
          {a.leaves.length > 0 && <p>{a.leaves.join(" ")}</p>}
        </div>
      ))}
      {loud.map((f) => (
        <FindingBox key={`${f.question}/${f.subject}`} finding={f} />
      ))}
      {good.length > 0 && (
        <div className={css.goodlist}>
          {good.map((f) => (
            <FindingBox
              key={`${f.question}/${f.subject}`}
              finding={f}
              quiet={loud.length > 0 && good.length > 1}
            />
          ))}
        </div>
      )}
      {answer.questions.map((q) => (
        <p key={q} className={`notice ${small.asked}`}>
          {q}
        </p>
      ))}
      {answer.waiting.map((w) => (
        <p key={w} className="mute">
          {w}
        </p>
      ))}
    </div>
  );
}
