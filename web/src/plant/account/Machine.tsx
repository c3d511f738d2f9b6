/** Could everything be brought back? The newest backup, and the room on the disk. */
import { dayTime, Ready, useGet, useMe, VerdictShape } from "../../base";
import type { Site } from "../queries";

export function Machine({ site }: { site: Site }) {
  const told = useGet("/api/v1/sites/{site_id}/machine", { site_id: site.id });
  const { locale } = useMe();
  return (
    <section className="ruled" aria-labelledby="machine-title">
      <h2 id="machine-title">Backups</h2>
      <Ready query={told}>
        {(m) => (
          <p data-testid="backup" data-verdict={m.verdict}>
            <VerdictShape verdict={m.verdict} /> <strong>{m.says}</strong>{" "}
            <span className="mute">
              {m.at && `${dayTime(m.at, site.time_zone, locale)}, ${m.file}`}
              {m.copied_to && `, also in ${m.copied_to}`}
              {m.at && "."} {m.free}
            </span>
          </p>
        )}
      </Ready>
    </section>
  );
}
