/** A box that failed, beside the photographs of it that are on record: which lead was where before. */
import { dayTime, useMe } from "../../base";
import { useAttachments } from "../../logbook";
import { useSites } from "../../plant";
import { useTools } from "../../safety";
import css from "./drawing.module.scss";

const MOST = 3;

export function OldPhotos() {
  const { given, answer } = useTools();
  const me = useMe();
  const zone = useSites().data?.find((s) => s.id === given.set.site_id)?.time_zone ?? "UTC";
  const found = useAttachments(given.set.id).data?.items;
  const mine = (found ?? []).filter((a) => a.bench === given.bench.name && a.kind === "photo").slice(0, MOST);
  const failed = answer?.findings.some((f) => f.question === "lead_list" && f.verdict === "stop");
  // Not fetched, none can be said to be there, nor that there is none.
  if (!failed || !found) return null;
  return (
    <section className={css.photos} aria-label="As it was photographed">
      {mine.length === 0 ? (
        <p className="mute">No photograph of this box is on record. Take one before any nut is opened.</p>
      ) : (
        mine.map((a) => (
          <figure key={a.uuid}>
            <a href={`/api/v1/attachments/${a.uuid}.jpg`} target="_blank" rel="noreferrer">
              <img src={`/api/v1/attachments/${a.uuid}.jpg`} alt={a.title || "Terminal box"} loading="lazy" />
            </a>
            <figcaption>
              {dayTime(a.at, zone, me.locale)}, {a.by}
            </figcaption>
          </figure>
        ))
      )}
    </section>
  );
}
