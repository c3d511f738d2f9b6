/**
 * Steps as the core compiles them: how far each has come, and what is said at the one that is next. No step
 * is known here.
 */
import { useEffect, useId, useRef, useState, type ReactNode } from "react";
import { Act, SENDING, FigureInput, useDraft, useMe, type Schemas } from "../base";
import css from "./safety.module.scss";

type Step = Schemas["Step"];
export type Offer = Schemas["Offer"];
/** Says it with its answer, where one is asked; true: it is taken. */
export type Say = (offer: Offer, answer: string) => Promise<boolean>;

export function Rail({ steps }: { steps: Step[] }) {
  return (
    <ol className={css.rail} aria-label="Steps">
      {steps.map((s) => (
        <li
          key={s.id}
          className={s.state}
          data-step={s.id}
          aria-current={s.state === "now" ? "step" : undefined}
        >
          <svg width={18} height={18} viewBox="0 0 18 18" aria-hidden="true">
            {s.state === "done" ? (
              <path d="M3 9l4 5 8-11" />
            ) : s.state === "left_out" ? (
              <path d="M3 9h12" />
            ) : (
              <circle cx={9} cy={9} r={s.state === "now" ? 6 : 4} />
            )}
          </svg>
          <span>
            <strong>{s.title}</strong> {s.says && <span className="mute">{s.says}</span>}{" "}
            {s.by && <span className="mute">{s.by}</span>}
            {s.state === "now" && (s.waits ?? []).length > 0 && (
              <span className={css.waits}> {(s.waits ?? []).join("; ")}</span>
            )}
          </span>
        </li>
      ))}
    </ol>
  );
}

interface NowProps {
  step: Step;
  /** The sheet that it is a step of: what is typed and not said yet belongs to it and to no other. */
  sheet: string;
  may: boolean;
  onSay: Say;
  /** What the core says stands open at it. */
  open: (what: string) => ReactNode;
}
/** The step that is next: its caution where it bites, and what can be said at it. */
export function StepNow({ step, sheet, may, onSay, open }: NowProps) {
  const offers = step.offers ?? [];
  const waits = step.waits ?? [];
  const own = offers.length > 0 || Boolean(step.opens);
  const place = useFocusKept(step.id);
  return (
    <section ref={place} tabIndex={-1} className={css.nowstep} aria-label={`Now: ${step.title}`}>
      <h2>Now</h2>
      <p className={css.big}>{step.title}</p>
      {step.caution && (
        <div className={css.cautions} role="note">
          <p>{step.caution}</p>
        </div>
      )}
      {step.under && <p className={css.codes}>{step.under}</p>}
      {waits.length > (own ? 1 : 0) && (
        <ul className="notes">
          {waits.map((w) => (
            <li key={w}>{w}</li>
          ))}
        </ul>
      )}
      {may && step.opens && open(step.opens)}
      {may && <Offers of={`${sheet}:${step.id}`} offers={offers} onSay={onSay} />}
      {!may && <p className="mute">View only. Entries need technician rights.</p>}
    </section>
  );
}
/** Whoever said the step before stands at the next one: its button is gone, and with it the focus. */
function useFocusKept(step: string) {
  const place = useRef<HTMLElement>(null);
  const last = useRef(step);
  useEffect(() => {
    if (last.current !== step && document.activeElement === document.body) place.current?.focus();
    last.current = step;
  }, [step]);
  return place;
}
const LOOK: Record<string, string> = { plain: "btn-line", main: "btn-ink", warns: "btn-line v-stop" };
function Offers({ of, offers, onSay }: { of: string; offers: Offer[]; onSay: Say }) {
  return (
    <div className="rowflex">
      {offers.map((o) =>
        o.asks ? (
          <Asking key={`${of}${o.word}`} offer={o} place={of} onSay={onSay} />
        ) : (
          <button key={o.word} className={LOOK[o.tone ?? "plain"]} onClick={() => void onSay(o, "")}>
            {o.word}
          </button>
        ),
      )}
    </div>
  );
}
/** What is asked before it is said: kept while it is typed, gone once it is taken. */
export function Asking({
  offer,
  place,
  onSay,
  children,
}: {
  offer: Offer;
  place: string;
  onSay: Say;
  children?: ReactNode;
}) {
  const me = useMe();
  const id = useId();
  const draft = useDraft(`${me.username}:say:${place}:${offer.word}`, "");
  const [busy, setBusy] = useState(false);
  const text = draft.value.trim();
  const ready = (offer.optional || text !== "") && !busy;
  const say = async () => {
    if (!ready) return;
    setBusy(true);
    if (await onSay(offer, text)) draft.done("");
    setBusy(false);
  };
  return (
    <div className="wholeline">
      <div className="noteline">
        <div className="field">
          <label htmlFor={id}>{offer.asks}</label>
          {offer.unit ? (
            <FigureInput
              id={id}
              label={offer.asks}
              value={{ text: draft.value, unit: offer.unit }}
              unit={offer.unit}
              digits
              onChange={(typed) => draft.change(typed?.text ?? "")}
              onNext={() => void say()}
            />
          ) : (
            <input
              id={id}
              value={draft.value}
              autoComplete="off"
              maxLength={500}
              onChange={(e) => draft.change(e.target.value)}
              onKeyDown={(e) => {
                if (e.key !== "Enter") return;
                e.preventDefault();
                void say();
              }}
            />
          )}
        </div>
        {offer.unit && <span className="mute">{offer.unit}</span>}
        <Act
          waits={!ready && (busy ? SENDING : `Enter first: ${offer.asks.replace(/[.?]$/, "")}.`)}
          onClick={() => void say()}
        >
          {offer.word}
        </Act>
        {children}
      </div>
      {(offer.notes ?? []).map((n) => (
        <p key={n} className="mute">
          {n}
        </p>
      ))}
    </div>
  );
}
