/** The set with every source where it comes in: confirmed ones in ink, proposed ones dashed, none here struck through. */
import { useNarrow, type Schemas } from "../../base";
import { Train, useKinds, type SetOut } from "../../plant";
import { useSafetyWords } from "../queries";
import css from "./drawing.module.scss";

type Line = Schemas["IsolationSource"];
type Proposed = Schemas["Proposed"];

/** What is known of one kind of source, in the word that stands with its mark. */
function standing(lines: Line[]): "entered" | "none" | "proposed" | "incomplete" {
  if (!lines.length) return "proposed";
  if (lines.every((l) => l.absent)) return "none";
  return lines.every((l) => l.absent || (l.device?.trim() && l.means)) ? "entered" : "incomplete";
}
const WORDS = {
  entered: "",
  none: "none here",
  proposed: "proposed: confirm or none here",
  incomplete: "enter device and means",
};

export function SourcesDrawn({
  set,
  lines,
  proposed,
  held,
}: {
  set: SetOut;
  lines: Line[];
  proposed: Proposed[];
  held: string;
}) {
  const narrow = useNarrow();
  const words = useSafetyWords().data;
  const parts = useKinds().data?.parts ?? [];
  const control = set.components.find((c) => c.slot === "control")?.kind ?? "";
  const kinds = (words?.sources ?? []).filter(
    (k) => lines.some((l) => l.kind === k.id) || proposed.some((p) => p.kind === k.id),
  );
  const title = (means: string | undefined) => words?.means.find((m) => m.id === means)?.title ?? "";
  // A part that this set has not: what comes in there comes in at its pump.
  const at = (part: string) => (set.slots.includes(part) ? part : "pump");
  const shown = set.slots.filter((slot) => kinds.some((k) => at(k.part) === slot));
  const now = lines.find((l) => l.id === held)?.kind ?? "";
  return (
    <div className={css.sourcesdrawn}>
      <Train
        kind={set.kind}
        posture={set.posture}
        slots={set.slots}
        control={control}
        parts={[]}
        label={`${set.tag}, its sources`}
        chosen={now ? at(kinds.find((k) => k.id === now)?.part ?? "") : ""}
        {...(narrow && set.posture === "flat" ? { width: 340 } : { scale: 1.5 })}
      />
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
                return (
                  <a
                    key={k.id}
                    href={`#source-${k.id}`}
                    className={css[stands]}
                    data-drawn={k.id}
                    data-stands={stands}
                  >
                    <span className={css.sourcename}>{k.title}</span>
                    {mine
                      .filter((l) => !l.absent)
                      .map((l) => (
                        <span key={l.id}>
                          {l.device || "device not entered"}
                          {l.feeds ? `; also feeds ${l.feeds}` : ""}
                        </span>
                      ))}
                    <span className="mute">
                      {WORDS[stands] || title(mine.find((l) => !l.absent)?.means)}
                      {stands === "proposed" && usual ? ` (${title(usual.means)})` : ""}
                    </span>
                  </a>
                );
              })}
          </div>
        ))}
      </div>
    </div>
  );
}
