/** The whole set: what is wrong on it, the worst first, and what was found where. */
import { Link } from "react-router";
import {
  becausePath,
  byWord,
  day,
  MarginLine,
  useMe,
  useNarrow,
  VerdictShape,
  VerdictWord,
  type Schemas,
} from "../../base";
import { pathOf } from "./part";
import { WasSaid } from "./WasSaid";
import css from "./set.module.scss";

type State = Schemas["SetStateOut"];
type Part = State["parts"][number];

export function Wrong({
  setId,
  state,
  zone,
  open,
  may,
}: {
  setId: number;
  state: State;
  zone: string;
  open: number;
  may: boolean;
}) {
  const wrong = state.parts.filter((p) => p.verdict !== "good");
  const good = state.parts.filter((p) => p.verdict === "good");
  return (
    <section className={css.panel} aria-labelledby="wrong-title">
      <div className={css.panelhead}>
        <h2 id="wrong-title">
          {wrong.length ? "What is wrong" : "Nothing overdue or out of limits on record"}
        </h2>
        <span className={css.setverdict} data-testid="set-verdict">
          <VerdictWord verdict={state.verdict} />
        </span>
      </div>
      {open > 0 && <p className={css.quietline}>Open items on this set: not cleared.</p>}
      {wrong.map((p, i) => (
        <WrongPart key={p.part} setId={setId} part={p} first={i === 0} zone={zone} may={may} />
      ))}
      {good.length > 0 && <Found setId={setId} parts={good} zone={zone} />}
    </section>
  );
}

function WrongPart({
  setId,
  part,
  first,
  zone,
  may,
}: {
  setId: number;
  part: Part;
  first: boolean;
  zone: string;
  may: boolean;
}) {
  const narrow = useNarrow();
  const leads = part.answers[0];
  return (
    <article className={css.wrong} data-part={part.part} data-verdict={part.verdict}>
      <h3 className={`v-${part.verdict}`}>
        <VerdictShape verdict={part.verdict} />{" "}
        <Link to={pathOf(setId, part.part)}>{leads ? leads.title : part.title}</Link>: {part.verdict}
        {part.beside ? ` and ${part.beside}` : ""}
        {part.by ? `, ${byWord(part.by)}` : ""}
      </h3>
      <p>{part.reason}</p>
      {first && leads?.line && (
        <MarginLine line={leads.line} verdict={part.verdict} width={narrow ? 330 : 380} />
      )}
      <WasSaid answer={leads} zone={zone} />
      {may && leads && part.verdict !== "unknown" && (
        <p className="noprint">
          <Link
            to={becausePath(setId, {
              from: "verdict",
              of: `${leads.question}/${leads.subject}`,
              says: `${leads.title}: ${part.verdict}`,
            })}
          >
            Open a job
          </Link>
        </p>
      )}
    </article>
  );
}

/** What was good, and when: a good is only as new as its reading. */
function Found({ setId, parts, zone }: { setId: number; parts: Part[]; zone: string }) {
  const me = useMe();
  return (
    <ul className={css.found}>
      {parts.map((p) => {
        const oldest = p.answers.map((a) => a.taken_at).sort()[0];
        return (
          <li key={p.part}>
            <VerdictShape verdict="good" size={13} /> <Link to={pathOf(setId, p.part)}>{p.title}</Link>
            <span className="mute">: good{oldest ? `, read ${day(oldest, zone, me.locale)}` : ""}</span>
          </li>
        );
      })}
    </ul>
  );
}
