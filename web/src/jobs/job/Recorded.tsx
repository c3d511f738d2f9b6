/** A closed job, to be read: its drawing with what was renewed, what was done by whom, and its proof. */
import { useState } from "react";
import type { Schemas } from "../../base";
import { Exploded } from "../Exploded";
import { ProofPage } from "./ProofPage";
import { Rail } from "./Rail";
import css from "./job.module.scss";

export function Recorded({ record }: { record: Schemas["RecordOut"] }) {
  const view = (record.evaluation as unknown as { view: Schemas["ShownJobView"] }).view;
  const [part, setPart] = useState<string | null>(null);
  const chosen = view.parts.find((p) => p.id === part);
  return (
    <div className={css.recorded}>
      <Exploded
        parts={view.parts}
        label={`${view.title}, parts`}
        posture={view.posture}
        chosen={part}
        onChoose={setPart}
      />
      {chosen && (
        <p className={css.partsays}>
          <strong>{chosen.title}</strong>: {chosen.does}. {chosen.state}.
        </p>
      )}
      <p>
        Cause: <strong>{view.cause || "not entered"}</strong>. Root: {view.root || "not found"}.
        {view.cost?.whole && (
          <span>
            {" "}
            Cost <span className="mono">{view.cost.whole.shown}</span>
            {view.cost.unpriced.length > 0 &&
              `, without ${view.cost.unpriced.join(", ")}: no price on the shelf`}
            .
          </span>
        )}{" "}
        <a href={`/api/v1/records/${String(record.id)}/job.csv`}>Table, CSV</a>
      </p>
      <ProofPage view={view} />
      <Rail view={view} at="" folded={false} choose={() => undefined} />
    </div>
  );
}
