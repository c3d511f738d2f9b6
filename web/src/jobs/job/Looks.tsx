/** A part looked at: its signs of soundness, of renewal here, of the shop; what they say so far. */
import { useState } from "react";
import type { Body, Job, Step } from "./useJob";
import css from "./job.module.scss";

type Look = Step["looks"][number];
const HEADS = {
  reuse: "Used again, if all of it",
  mend: "Renew or mend here",
  send: "Shop, or scrap",
} as const;
const FATES: Record<string, string> = {
  reuse: "used again",
  renew: "renew, or mend here",
  send: "to the shop, or scrap",
  open: "not all of it confirmed yet",
};
export function Looks({ job, step, look }: { job: Job; step: Step; look: Look }) {
  // What was tapped counts at once: the next tap builds on it, whenever the answer comes.
  const [tapped, setTapped] = useState<string[] | null>(null);
  const seen = tapped ?? look.seen;
  const toggle = (id: string, on: boolean) => {
    const signs = on ? [...seen, id] : seen.filter((x) => x !== id);
    setTapped(signs);
    job.say({ kind: "look", step: step.id, look: look.look, signs } as Body);
  };
  return (
    <fieldset className={css.look} data-look={look.look} data-fate={look.fate}>
      <legend>
        {look.title}
        {look.fate && <strong>: {FATES[look.fate]}</strong>}
      </legend>
      {look.never && <p className="mute">{look.never}</p>}
      {(Object.keys(HEADS) as (keyof typeof HEADS)[]).map((fate) => {
        const signs = look.signs.filter((s) => s.fate === fate);
        if (signs.length === 0) return null;
        return (
          <div key={fate} className={css.signs}>
            <span className="mute">{HEADS[fate]}</span>
            {signs.map((s) => (
              <label key={s.id} className="confirm">
                <input
                  type="checkbox"
                  disabled={!job.tools.writes}
                  checked={seen.includes(s.id)}
                  onChange={(e) => toggle(s.id, e.target.checked)}
                />{" "}
                {s.says}
              </label>
            ))}
          </div>
        );
      })}
      {look.pair && <p className="mute">Judged as a pair: {look.pair}.</p>}
    </fieldset>
  );
}
