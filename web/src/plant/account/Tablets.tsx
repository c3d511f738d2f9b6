/** Browsers that the people of a site share: which stand, and this one made one of them. */
import { useQueryClient } from "@tanstack/react-query";
import { useState, type FormEvent } from "react";
import {
  address,
  Complaint,
  dayTime,
  problemOf,
  Ready,
  renew,
  send,
  setTablet,
  small,
  useGet,
  useGoing,
  useMe,
  useSession,
  type Schemas,
} from "../../base";
import type { Site } from "../queries";
import css from "./account.module.scss";

type Tablet = Schemas["TabletOut"];

export function Tablets({ site }: { site: Site }) {
  const tablets = useGet("/api/v1/sites/{site_id}/tablets", { site_id: site.id });
  const client = useQueryClient();
  const { locale, shared } = useMe();
  const { error, go } = useGoing();
  const at = (when: string) => dayTime(when, site.time_zone, locale);
  const end = async (t: Tablet) => {
    const where = address("/api/v1/tablets/{tablet_id}/end", { tablet_id: t.id });
    if ((await go(() => send("POST", where))) && t.here) setTablet(false);
    await renew(client, { site: site.id });
  };
  return (
    <section className="ruled" aria-labelledby="tablets-title">
      <h2 id="tablets-title">Shared tablets</h2>
      <p className="mute">
        Several people, one tablet: each comes in by a PIN, and a lock asks again who holds it. It opens this
        site alone, and nothing that takes an admin.
      </p>
      <Ready query={tablets}>
        {(list) => (
          <>
            {list.map((t) => (
              <div className={`rowflex ${small.ruledRow}`} key={t.id} data-tablet={t.title}>
                <span className={`${small.from12} ${t.ended_at ? css.ended : ""}`}>
                  {t.title}
                  {t.here && " (this one)"}{" "}
                  <span className="mute">
                    by {t.by}, {at(t.made_at)}
                  </span>
                </span>
                <span className="mute">{t.used_at ? `last used ${at(t.used_at)}` : "not used yet"}</span>
                {!t.ended_at && (
                  <button className="linklike" onClick={() => void end(t)}>
                    End, and sign out who is on it
                  </button>
                )}
              </div>
            ))}
          </>
        )}
      </Ready>
      <Complaint error={error} />
      {shared ? <p className="mute">This browser is a shared tablet.</p> : <MakeTablet site={site} />}
    </section>
  );
}

function MakeTablet({ site }: { site: Site }) {
  const client = useQueryClient();
  const { renewed } = useSession();
  const [title, setTitle] = useState("");
  const { error, go } = useGoing();
  const make = async (e: FormEvent) => {
    e.preventDefault();
    const where = address("/api/v1/sites/{site_id}/tablets", { site_id: site.id });
    await go(async () => {
      await send("POST", where, { title });
      setTablet(true);
      await renewed((await send("GET", "/api/v1/session")) as Schemas["SessionOut"]);
    });
    await renew(client, { site: site.id });
  };
  return (
    <form className="rowflex" onSubmit={(e) => void make(e)}>
      <div className="field">
        <label htmlFor="tablet-title">Where it hangs</label>
        <input id="tablet-title" required value={title} onChange={(e) => setTitle(e.target.value)} />
        {problemOf(error, "title") && <span className="bad">{problemOf(error, "title")}</span>}
      </div>
      <button className="btn-line">Make this browser a shared tablet</button>
      {!problemOf(error, "title") && <Complaint error={error} />}
    </form>
  );
}
