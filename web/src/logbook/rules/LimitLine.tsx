/** A limit with its source; a lead lays the site's own figure over it, with a reason. */
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import {
  address,
  Complaint,
  FigureInput,
  outbox,
  renew,
  small,
  useDraft,
  useMe,
  type Schemas,
} from "../../base";
import type { Site } from "../../plant";
import { sourced } from "../components/FindingBox";
import { SiteFigures } from "./SiteFigures";

export function LimitLine({ site, row, may }: { site: Site; row: Schemas["LimitRow"]; may: boolean }) {
  const me = useMe();
  const [open, setOpen] = useState(false);
  return (
    <div className={small.row} data-limit={row.id}>
      <div className="rowflex">
        <span className={small.from20}>{row.title}</span>
        <span className="mono">{row.shown}</span>
        <span className={`mute ${small.from16}`}>{sourced(row)}</span>
        {may && !row.fixed && (
          <button className="linklike" aria-expanded={open} onClick={() => setOpen(!open)}>
            {open ? "Cancel" : "Set site limit"}
          </button>
        )}
      </div>
      <SiteFigures rows={row.overrides} site={site} may={may} locale={me.locale} />
      {open && (
        <OverrideForm
          site={site}
          limit={row.id}
          unit={row.unit}
          symbol={row.symbol}
          done={() => setOpen(false)}
        />
      )}
    </div>
  );
}

function OverrideForm({
  site,
  limit,
  unit,
  symbol,
  done,
}: {
  site: Site;
  limit: string;
  unit: string;
  symbol: string;
  done: () => void;
}) {
  const draft = useDraft(`override:${site.id}:${limit}`, { value: "", reason: "" });
  const [error, setError] = useState<unknown>(null);
  const client = useQueryClient();
  const save = async () => {
    try {
      const value = draft.value.value.trim().replace(",", ".");
      await outbox.write(
        "POST",
        address("/api/v1/sites/{site_id}/overrides", { site_id: site.id }),
        {
          limit,
          value: value === "" ? null : value,
          unit,
          choice: "",
          reason: draft.value.reason,
        },
        "site limit",
      );
      draft.done({ value: "", reason: "" });
      await renew(client, { site: site.id });
      done();
    } catch (e) {
      setError(e);
    }
  };
  return (
    <div className="rulebox">
      <div className="rowflex">
        <div className={`field ${small.w130}`}>
          <label htmlFor={`v${limit}`}>Site limit, {symbol}</label>
          <FigureInput
            id={`v${limit}`}
            label={`Site limit, ${symbol}`}
            value={{ text: draft.value.value, unit: symbol }}
            unit={symbol}
            digits
            onChange={(typed) => draft.change({ ...draft.value, value: typed?.text ?? "" })}
          />
        </div>
        <div className={`field ${small.growing}`}>
          <label htmlFor={`r${limit}`}>Reason</label>
          <input
            id={`r${limit}`}
            value={draft.value.reason}
            onChange={(e) => draft.change({ ...draft.value, reason: e.target.value })}
          />
        </div>
        <button className="btn-ink" onClick={() => void save()}>
          Save site limit
        </button>
      </div>
      <p className={`mute ${small.closeBelow}`}>
        The next check uses this limit. Saved records keep their verdict until they are re-evaluated (
        <span className="mono">hurbin db rejudge</span>).
      </p>
      <Complaint error={error} />
    </div>
  );
}
