/** A bench opened in place of the step that asks for it: worked, put on record, and back at the step. */
import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import { renew, useKeys } from "../../base";
import { OpenedWithin, type Said } from "../../logbook";
import { BenchPage, definedBench } from "../../safety";
import css from "./beside.module.scss";
import type { Step } from "./useJob";

interface Props {
  setId: number;
  step: Step;
  bench: string;
  /** With what was said where a record was put; nothing where it was left. */
  back: (said?: Said) => void;
}
export function InPlace({ setId, step, bench, back }: Props) {
  const client = useQueryClient();
  const top = useRef<HTMLElement>(null);
  const def = definedBench(bench);
  // What was said there counts here at once.
  const over = (said?: Said) => {
    back(said);
    void renew(client, { set: setId });
  };
  useEffect(() => top.current?.focus(), []);
  useKeys([{ key: "Escape", does: "back to the step", run: () => over() }]);
  if (!def) return null;
  return (
    <section
      ref={top}
      tabIndex={-1}
      className={css.inplace}
      data-in-place={bench}
      aria-label={`For step ${String(step.n)}`}
    >
      <p className={css.forstep}>
        <button type="button" className="btn-line" onClick={() => over()}>
          Back to step {step.n}
        </button>{" "}
        <span className="mute">{step.title}</span>
      </p>
      <OpenedWithin value={over}>
        <BenchPage def={def} />
      </OpenedWithin>
    </section>
  );
}
