/** Gravel, hiss or rumble: what was heard and seen, the shares of five causes, and the one look that parts them. */
import type { EntryBody, Schemas } from "../../base";
import { Choose, useTools } from "../../safety";
import css from "../water.module.scss";

type Body = EntryBody<"suction">;
const WATER = [
  ["", "looked for?"],
  ["seen", "there"],
  ["none", "not there"],
] as const;
interface Props {
  view: Schemas["ShownSuctionView"] | null;
  body: Body;
  say: (more: Partial<Body>) => void;
}
export function Noise({ view, body, say }: Props) {
  const { may } = useTools();
  return (
    <section className={css.part} aria-label="Noise">
      <p className="statesentence">
        Level or loop pressure is{" "}
        <Choose name="water_seen" label="Level or loop pressure" options={WATER} body={body} say={say} />.
      </p>
      <p className="statesentence">
        {view?.asked.map((q) => (
          <span
            key={q.id}
            data-ask={q.id}
            data-next={q.next || undefined}
            className={q.next ? css.nextask : ""}
          >
            {q.title}{" "}
            <select
              className="inline-select"
              aria-label={q.title}
              disabled={!may}
              value={((body as Record<string, unknown>)[q.id] as string | null | undefined) ?? ""}
              onChange={(e) => say({ [q.id]: e.target.value || null } as Partial<Body>)}
            >
              <option value="">not looked</option>
              {q.answers.map(([id, words]) => (
                <option key={id} value={id}>
                  {words}
                </option>
              ))}
            </select>
            .{" "}
          </span>
        ))}
      </p>
      {view && view.causes.length > 0 && (
        <ul className={css.ways} data-causes>
          {view.causes.map((c) => (
            <li key={c.id} data-cause={c.id}>
              <span>{c.title}</span>
              <svg viewBox="0 0 200 12" width="200" aria-hidden="true">
                <path className={css.seen} d={`M0 6H${String(200 * c.part)}`} />
              </svg>
              <strong className="mono">{c.share.shown}</strong>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
