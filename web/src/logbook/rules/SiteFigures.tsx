/** What the site, or a set of it, has laid over a published figure or practice, by whom and why. */
import { useQueryClient } from "@tanstack/react-query";
import { address, Complaint, day, outbox, renew, small, useGoing, type Schemas } from "../../base";
import type { Site } from "../../plant";

export function SiteFigures({
  rows,
  site,
  may,
  locale,
}: {
  rows: Schemas["OverrideRow"][];
  site: Site;
  may: boolean;
  locale: string;
}) {
  const client = useQueryClient();
  const { error, go } = useGoing();
  const end = (id: number) =>
    go(async () => {
      await outbox.write(
        "DELETE",
        address("/api/v1/sites/{site_id}/overrides/{override_id}", { site_id: site.id, override_id: id }),
        undefined,
        "site limit removed",
      );
      await renew(client, { site: site.id });
    });
  return (
    <>
      {rows.map((o) => (
        <p key={o.id} className={small.inset}>
          <strong>✎ {o.shown}</strong> site limit{o.set_tag && ` for ${o.set_tag}`}, set by {o.override.by},{" "}
          {day(o.override.at, site.time_zone, locale)}: “{o.override.reason}”{" "}
          {may && (
            <button className="linklike" onClick={() => void end(o.id)}>
              Remove site limit
            </button>
          )}
        </p>
      ))}
      <Complaint error={error} />
    </>
  );
}
