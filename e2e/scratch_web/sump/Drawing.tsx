/** A sump and the water in it: the smallest whole drawing there is, to show what adding one takes. */
import type { Schemas } from "../../base";
import {
  Bench,
  NamedFigure,
  PutOnRecord,
  Sending,
  useBench,
  useOneEntry,
  Verdicts,
  type Given,
} from "../../safety";

interface Body {
  level?: Schemas["Entered"] | null;
  pump?: string | null;
  note?: string | null;
}
export function Drawing({ given }: { given: Given }) {
  const sheet = useOneEntry<Body, { filled: number }>(given, { figures: ["level"], kept: [] });
  const tools = useBench(given, sheet.own);
  const water = 90 * (tools.answer?.view.filled ?? 0);
  return (
    <Bench tools={tools}>
      <svg viewBox="0 0 200 110" width={200} role="img" aria-label="The sump" data-water={Math.round(water)}>
        <path d="M20 5V100H180V5" fill="none" stroke="currentColor" />
        <rect x={21} y={99 - water} width={158} height={water} fill="currentColor" opacity={0.2} />
      </svg>
      <p className="statesentence">
        The pump is{" "}
        <select
          className="inline-select"
          aria-label="The pump is"
          value={sheet.body.pump ?? ""}
          onChange={(e) => sheet.change({ pump: e.target.value || null })}
        >
          <option value="">say</option>
          <option value="running">running</option>
          <option value="standing">standing</option>
        </select>
        , <NamedFigure name="level" />
      </p>
      <Verdicts />
      <div className="savebar">
        <PutOnRecord />
      </div>
      <Sending />
    </Bench>
  );
}
