/** What is read for a proof where no other bench reads it, and what it says so far. */
import type { ReactNode } from "react";
import { Act, VerdictWord } from "../../base";
import { NamedFigure } from "../../safety";
import { isFigure, type Body, type Job, type Step } from "./useJob";
import css from "./job.module.scss";

const KIND: Record<string, string> = {
  seal: "drip",
  heat: "heat",
  head: "head",
  service: "service",
  direction: "arrow",
};
const FIGURES: Record<string, string[]> = {
  drip: ["minute", "drops"],
  heat: ["minute", "bearing", "ambient"],
  head: ["before", "after"],
  service: ["minute", "value"],
  arrow: [],
};
const WORDS: Record<string, [string, string, [string, string][]][]> = {
  drip: [
    [
      "packing",
      "seal or packing",
      [
        ["no", "seal"],
        ["yes", "packing"],
      ],
    ],
  ],
  head: [
    [
      "sign",
      "sign of flow",
      [
        ["meter", "flow meter"],
        ["drawdown", "drawdown"],
        ["difference", "temperature difference"],
      ],
    ],
    [
      "valve",
      "valve",
      [
        ["same", "as before"],
        ["other", "other than before"],
      ],
    ],
  ],
  arrow: [
    [
      "right",
      "direction",
      [
        ["yes", "by the arrow"],
        ["no", "against the arrow"],
      ],
    ],
  ],
  heat: [],
  service: [],
};
export function ProofFields({ job, step }: { job: Job; step: Step }) {
  const kind = KIND[step.proves];
  const proof = job.view?.proof.find((p) => p.step === step.id);
  const told: ReactNode = proof?.verdict ? (
    <p data-proof={proof.verdict}>
      <VerdictWord verdict={proof.verdict} /> {proof.says}
    </p>
  ) : (
    <p className="mute">Not read yet.</p>
  );
  if (!kind) return <div className={css.proof}>{told}</div>;
  const figures = FIGURES[kind] ?? [];
  const words = WORDS[kind] ?? [];
  const word = (name: string) => String(job.typed[`${kind}:${name}`] ?? "");
  const any = figures.some((f) => isFigure(job.typed[f])) || words.some(([w]) => word(w));
  const keep = () => {
    const body: Record<string, unknown> = { kind };
    for (const f of figures) if (isFigure(job.typed[f])) body[f] = job.typed[f];
    for (const [w] of words) if (word(w)) body[w] = word(w);
    job.say(body as Body);
    job.forget(...figures, ...words.map(([w]) => `${kind}:${w}`));
  };
  return (
    <div className={css.proof} data-proof-kind={kind}>
      <div className={css.row}>
        {figures.map((f) => (
          <NamedFigure key={f} name={f} />
        ))}
      </div>
      {words.map(([name, label, options]) => (
        <div key={name} className={css.choices} role="group" aria-label={label}>
          {options.map(([value, says]) => (
            <button
              key={value}
              type="button"
              className="btn-line"
              aria-pressed={word(name) === value}
              onClick={() => job.put(`${kind}:${name}`, word(name) === value ? "" : value)}
            >
              {says}
            </button>
          ))}
        </div>
      ))}
      {job.tools.writes && (
        <Act waits={!any && "Enter a reading first."} onClick={keep}>
          Save reading
        </Act>
      )}
      {told}
    </div>
  );
}
