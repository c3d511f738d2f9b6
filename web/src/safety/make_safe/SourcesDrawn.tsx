/** The set with every source where it comes in, answered there: a device, or none here; proposed ones dashed. */
import { useRef } from "react";
import { useNarrow, type Schemas } from "../../base";
import { Leaders, Train, useKinds, type SetOut } from "../../plant";
import { useSafetyWords } from "../queries";
import { SourceRow, SourceSaid, type Line, type Say } from "./SourceRow";
import css from "./drawing.module.scss";

type Proposed = Schemas["Proposed"];

/** How far one kind of source is answered. */
export function standing(lines: Line[]): "entered" | "none" | "proposed" | "incomplete" {
  if (!lines.length) return "proposed";
  if (lines.every((l) => l.absent)) return "none";
  return lines.every((l) => l.absent || (l.device?.trim() && l.means)) ? "entered" : "incomplete";
}

interface Props {
  set: SetOut;
  lines: Line[];
  proposed: Proposed[];
  /** Kinds that nobody proposes for a set like this, and that somebody found all the same. */
  more: string[];
  /** What is answered on it; null: it is looked at. */
  say: Say | null;
}
export function SourcesDrawn({ set, lines, proposed, more, say }: Props) {
  const box = useRef<HTMLDivElement>(null);
  const narrow = useNarrow();
  const wide = !useNarrow(900);
  const words = useSafetyWords().data;
  const parts = useKinds().data?.parts ?? [];
  const control = set.components.find((c) => c.slot === "control")?.kind ?? "";
  const kinds = (words?.sources ?? []).filter(
    (k) => lines.some((l) => l.kind === k.id) || proposed.some((p) => p.kind === k.id) || more.includes(k.id),
  );
  // A part that this set has not: what comes in there comes in at its pump.
  const at = (part: string) => (set.slots.includes(part) ? part : "pump");
  const shown = set.slots.filter((slot) => kinds.some((k) => at(k.part) === slot));
  return (
    <div className={css.sourcesdrawn} ref={box}>
      <Train
        kind={set.kind}
        posture={set.posture}
        slots={set.slots}
        control={control}
        parts={[]}
        label={`${set.tag}, its sources`}
        {...(narrow && set.posture === "flat" ? { width: 340 } : { scale: 1.5 })}
      />
      {set.posture === "flat" && wide && (
        <Leaders box={box} posture={set.posture} slots={set.slots} to="at" />
      )}
      <div className={css.comesin}>
        {shown.map((slot) => (
          <div key={slot} data-at={slot}>
            <strong>{parts.find((p) => p.id === slot)?.title}</strong>
            {kinds
              .filter((k) => at(k.part) === slot)
              .map((k) => {
                const mine = lines.filter((l) => l.kind === k.id);
                const stands = standing(mine);
                const usual = proposed.find((p) => p.kind === k.id);
                const rows = mine.length ? mine : [null];
                return (
                  <section
                    key={k.id}
                    className={css[stands]}
                    aria-label={k.title}
                    data-drawn={k.id}
                    data-stands={stands}
                  >
                    <span className={css.sourcename}>{k.title}</span>
                    {rows.map((line, i) =>
                      say ? (
                        <SourceRow key={i} kind={k} line={line} usual={usual} set={set} say={say} />
                      ) : (
                        <SourceSaid key={i} kind={k} line={line} />
                      ),
                    )}
                    {say && stands === "entered" && (
                      <button
                        className="linklike"
                        aria-label={`${k.title}: one more`}
                        onClick={() => say.add(k.id, {})}
                      >
                        Add another
                      </button>
                    )}
                  </section>
                );
              })}
          </div>
        ))}
      </div>
    </div>
  );
}
