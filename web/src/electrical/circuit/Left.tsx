/** What is left, by weight of ink, and where to measure next with what each figure would leave. */
import { useTools } from "../../safety";
import type { View } from "./layout";
import type { Walk } from "./walk";
import css from "./drawing.module.scss";

const Ink = ({ weight }: { weight: number }) => (
  <svg className={css.inkkey} viewBox="0 0 44 12" width={44} height={12} aria-hidden="true">
    <path d="M0 6H44" strokeWidth={1.4 + 8 * weight} stroke="currentColor" />
  </svg>
);

export function Left({ view }: { view: View }) {
  if (!view.others) return null;
  return (
    <section className="ruled" aria-labelledby="left-title">
      <h2 id="left-title" className={css.head}>
        What is left <span className="mute">{view.others}</span>
      </h2>
      {view.headline && <p className={css.headline}>{view.headline}</p>}
      <ul className={css.leftovers}>
        {view.leftovers.map((l) => (
          <li key={l.id} data-suspect={l.id}>
            <Ink weight={l.weight} />
            <span>{l.title}</span>
            <b className="mono">{l.share.shown}</b>
          </li>
        ))}
      </ul>
      {view.more > 0 && <p className="mute">{view.more} more, each less likely</p>}
      {[...view.cannot, ...view.signs].map((words) => (
        <p key={words}>{words}</p>
      ))}
    </section>
  );
}
export function NextProbe({ view, walk }: { view: View; walk: Walk }) {
  const { may } = useTools();
  const { next } = view;
  if (!next) return null;
  const there = walk.probes.one === next.one && walk.probes.two === next.two && walk.quantity === "volts";
  return (
    <section className="ruled" aria-labelledby="next-title" data-next={`${next.one} ${next.two}`}>
      <h2 id="next-title" className={css.head}>
        Next probe <span className="mute">about {next.minutes.shown}</span>
      </h2>
      <p className={css.where}>{next.title}</p>
      <p>
        {next.why} {walk.waits}
      </p>
      <ul className={css.branches}>
        {next.branches.map((b) => (
          <li key={b.reads}>
            <b className="mono">{b.reads}</b>
            <Ink weight={b.weight} />
            <span>{b.leaves}</span>
          </li>
        ))}
      </ul>
      {may && walk.waits && next.confirm && (
        <button
          className="btn-ink"
          onClick={() => walk.stand({ contactor: next.contactor, meter: next.meter, motor: next.motor })}
        >
          {next.confirm}
        </button>
      )}
      {may && !there && (
        <button
          className="btn-line"
          onClick={() => {
            walk.read("volts");
            walk.free();
          }}
        >
          Put the probes there
        </button>
      )}
    </section>
  );
}
