/** What this page is about: the set by its tag, and which sheet of it. */
import type { ReactNode } from "react";
import { useWithin } from "../../logbook";
import s from "./frame.module.scss";
import type { Given } from "./tools";

const PENCIL = "What-if: nothing is saved";

export function Heading({ given, more }: { given: Given; more?: ReactNode }) {
  const { bench, mode, set } = given;
  const title = { new: bench.title, correct: `Correct ${bench.one}`, pencil: PENCIL }[mode];
  const within = useWithin();
  if (within) return <h2>{title}</h2>;
  return (
    <h1>
      <span className="mono">{set.tag}</span> <span className={s.which}>{title}</span>
      {more && <span className={`mute ${s.more}`}> {more}</span>}
    </h1>
  );
}
