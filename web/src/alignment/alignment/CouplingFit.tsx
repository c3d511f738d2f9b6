/** The coupling itself: gap between the hubs, tried bare and keyed, who is fixed and who floats, its element, the guard. */
import { BenchFigure, fieldId, useTools } from "../../safety";
import { Pick, Placed, Tick, type Visit } from "./fields";
import css from "./work.module.scss";

const SCREWS: [string, string][] = [
  ["", "choose"],
  ["fixed", "fixed"],
  ["floating", "without set screws"],
];

export function CouplingFit({ t }: { t: Visit }) {
  const { hold } = useTools();
  return (
    <section className={css.fit} aria-label="Coupling fit">
      <div className={css.hubs}>
        <svg viewBox="0 0 520 190" aria-hidden="true">
          <path className="centre" d="M10 100H510" />
          <path
            className="thing"
            d="M60 88H190M60 112H190M330 88H460M330 112H460M190 50H236V150H190zM284 50H330V150H284z"
          />
          <path className="element" d="M236 60H284V140H236z" />
          <path className="dim" d="M236 46V26M284 46V26M216 32H304" />
          <text x={90} y={80}>
            pump
          </text>
          <text x={400} y={80}>
            motor
          </text>
        </svg>
        <Placed name="hub_gap" x={50} y={12} label="gap between hubs" />
        <span className={`${css.hubside} ${css.left}`}>
          hub <Pick t={t} name="screws_pump" label="Pump hub" options={SCREWS} />
        </span>
        <span className={`${css.hubside} ${css.right}`}>
          hub <Pick t={t} name="screws_motor" label="Motor hub" options={SCREWS} />
        </span>
      </div>
      <p className="statesentence">
        Manufacturer’s gap between hubs: <BenchFigure name="hub_gap_maker" />.
      </p>
      <div className={css.ticks}>
        <Tick t={t} name="bare_fit">
          Hub fit checked without key
        </Tick>
        <Tick t={t} name="keyed_fit">
          Hub fit checked with key
        </Tick>
        <Tick t={t} name="floating_shaft">
          Pump shaft must float (balance disc)
        </Tick>
        <Tick t={t} name="halves_as_marked">
          Element halves matched to their marks
        </Tick>
        <Tick t={t} name="new_bolts">
          New bolts, threadlocker applied
        </Tick>
        <Tick t={t} name="element_renewed">
          Element replaced
        </Tick>
      </div>
      {t.body.element_renewed && (
        <div className="field">
          <label htmlFor={fieldId("root")}>Why it failed</label>
          <input
            id={fieldId("root")}
            maxLength={300}
            value={t.body.root ?? ""}
            onFocus={() => hold(null)}
            onChange={(e) => t.change({ root: e.target.value })}
          />
        </div>
      )}
      <Tick t={t} name="guard_on">
        Guard on
      </Tick>
    </section>
  );
}
