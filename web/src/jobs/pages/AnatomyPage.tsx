/**
 * How a pump is built: its parts along the shaft line, each with what it does, what wears it, how it is judged,
 * and what is off before it.
 */
import { useState } from "react";
import { Link, useParams } from "react-router";
import { Ready, useGet, type Schemas } from "../../base";
import { Exploded } from "../Exploded";
import css from "./pages.module.scss";

type Anatomy = Schemas["AnatomyOut"];

export function AnatomyPage() {
  const name = useParams().name ?? "base_mounted";
  const told = useGet("/api/v1/anatomy/{name}", { name });
  return (
    <div className={css.page}>
      <Ready query={told} what="Loading anatomy">
        {(a) => <Whole key={a.tree.id} a={a} />}
      </Ready>
    </div>
  );
}
function Whole({ a }: { a: Anatomy }) {
  const [chosen, setChosen] = useState<string | null>(null);
  const parts = (a.tree.part ?? []).map((p) => ({
    ...p,
    hand: p.id === chosen,
    drawn: { ...p.drawn, y: p.drawn.y ?? 0 },
  }));
  const row = a.order.find((r) => r.part.id === chosen);
  const look = a.looks.find((l) => l.id === row?.part.judged);
  const step = (way: 1 | -1) => {
    const at = a.order.findIndex((r) => r.part.id === chosen);
    const next = a.order[(at + way + a.order.length) % a.order.length];
    if (next) setChosen(next.part.id);
  };
  return (
    <>
      <h1>{a.tree.title}</h1>
      <Exploded
        parts={parts}
        label={a.tree.title}
        posture={a.tree.posture ?? "flat"}
        chosen={chosen}
        onChoose={(id) => setChosen(id === chosen ? null : id)}
        near
      />
      <div className={css.two}>
        <ol className={css.order} aria-label="As it comes apart">
          {a.order.map((r) => (
            <li key={r.part.id} data-part-row={r.part.id}>
              <button
                type="button"
                aria-current={r.part.id === chosen || undefined}
                onClick={() => setChosen(r.part.id)}
              >
                {r.part.title}
              </button>
            </li>
          ))}
        </ol>
        <section className={css.says} aria-label="The part">
          {!row && <p>Tap a part, or walk through them in the order in which they come off.</p>}
          {row && (
            <>
              <h2>{row.part.title}</h2>
              <dl>
                <dt>Does</dt>
                <dd>{row.part.does}</dd>
                {row.part.wears && (
                  <>
                    <dt>Wears by</dt>
                    <dd>{row.part.wears}</dd>
                  </>
                )}
                <dt>Off before it</dt>
                <dd>{row.after.join(", ") || "nothing"}</dd>
                {look && (
                  <>
                    <dt>Used again</dt>
                    <dd>{look.reuse.join("; ") || look.never}</dd>
                    {look.mend.length > 0 && (
                      <>
                        <dt>Renewed, mended here</dt>
                        <dd>{look.mend.join("; ")}</dd>
                      </>
                    )}
                    {look.send.length > 0 && (
                      <>
                        <dt>Shop, or scrap</dt>
                        <dd>{look.send.join("; ")}</dd>
                      </>
                    )}
                    {look.pair && (
                      <>
                        <dt>As a pair</dt>
                        <dd>{look.pair}</dd>
                      </>
                    )}
                    <dt>Source</dt>
                    <dd className="mute">{look.source}</dd>
                  </>
                )}
              </dl>
            </>
          )}
          <button type="button" className="btn-line" onClick={() => step(-1)}>
            Before
          </button>{" "}
          <button type="button" className="btn-ink" onClick={() => step(1)}>
            Next part
          </button>
        </section>
      </div>
      <nav className={css.trees} aria-label="Other assemblies">
        {a.trees.map((t) => (
          <Link key={t.id} to={`/anatomy/${t.id}`} aria-current={t.id === a.tree.id ? "page" : undefined}>
            {t.title}
          </Link>
        ))}
      </nav>
    </>
  );
}
