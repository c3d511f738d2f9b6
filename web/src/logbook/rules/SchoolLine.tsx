/** Where practice differs: what this site does, and the other way, chosen with a reason. */
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { address, Complaint, outbox, renew, small, useDraft, useMe, type Schemas } from "../../base";
import type { Site } from "../../plant";
import { SiteFigures } from "./SiteFigures";

export function SchoolLine({ site, row, may }: { site: Site; row: Schemas["SchoolRow"]; may: boolean }) {
  const me = useMe();
  const draft = useDraft(`practice:${site.id}:${row.id}`, { reason: "" });
  const [error, setError] = useState<unknown>(null);
  const client = useQueryClient();
  const now = row.overrides.find((o) => o.set_tag === "")?.override.choice || row.default;
  const choose = async (choice: string) => {
    try {
      await outbox.write(
        "POST",
        address("/api/v1/sites/{site_id}/overrides", { site_id: site.id }),
        { limit: row.id, choice, unit: "", reason: draft.value.reason },
        "choice of practice",
      );
      draft.done({ reason: "" });
      setError(null);
      await renew(client, { site: site.id });
    } catch (e) {
      setError(e);
    }
  };
  return (
    <div data-limit={row.id}>
      <p className={small.closeHead}>
        <strong>{row.title}</strong>: {row.options[now]}
        {now === row.default && " (the default)"}
      </p>
      <p className={`mute ${small.flush}`}>{row.why}</p>
      <SiteFigures rows={row.overrides} site={site} may={may} locale={me.locale} />
      {may && (
        <div className="rowflex">
          <input
            className={`inline-input ${small.wideWords}`}
            placeholder="reason for the change"
            aria-label="Reason for the change"
            value={draft.value.reason}
            onChange={(e) => draft.change({ reason: e.target.value })}
          />
          {Object.entries(row.options)
            .filter(([k]) => k !== now)
            .map(([k, v]) => (
              <button key={k} className="btn-line" onClick={() => void choose(k)}>
                Use {v}
              </button>
            ))}
        </div>
      )}
      <Complaint error={error} />
    </div>
  );
}
