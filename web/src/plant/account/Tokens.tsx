/** Keys for scripts and loggers: what each is for, how much it may, when it was used last. */
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
  small,
  useGet,
  useMe,
  type Schemas,
} from "../../base";
import type { Site } from "../queries";
import css from "./account.module.scss";

type Token = Schemas["TokenOut"];
const ROLES = ["viewer", "technician", "lead"];

export function Tokens({ site }: { site: Site }) {
  const tokens = useGet("/api/v1/sites/{site_id}/tokens", { site_id: site.id });
  const client = useQueryClient();
  const { locale } = useMe();
  const [error, setError] = useState<unknown>(null);
  const end = async (t: Token) => {
    setError(null);
    try {
      await send("DELETE", address("/api/v1/tokens/{token_id}", { token_id: t.id }));
    } catch (e) {
      setError(e);
    }
    await renew(client, { site: site.id });
  };
  return (
    <section className="ruled" aria-labelledby="tokens-title">
      <h2 id="tokens-title">Tokens for scripts</h2>
      <Ready query={tokens}>
        {(list) => (
          <>
            {list.length === 0 && (
              <p className="mute">
                None. A logger or a script shows one in place of a sign-in, and is held to this site.
              </p>
            )}
            {list.map((t) => (
              <div className={`rowflex ${small.ruledRow}`} key={t.id} data-token={t.title}>
                <span className={`${small.from12} ${t.ended_at ? css.ended : ""}`}>
                  {t.title}{" "}
                  <span className="mute">
                    {t.role}, by {t.by}
                  </span>
                </span>
                <span className="mute">
                  {t.used_at ? `last used ${dayTime(t.used_at, site.time_zone, locale)}` : "never used"}
                </span>
                {!t.ended_at && (
                  <button className="linklike" onClick={() => void end(t)}>
                    End
                  </button>
                )}
              </div>
            ))}
          </>
        )}
      </Ready>
      <Complaint error={error} />
      <MakeToken site={site} />
    </section>
  );
}

function MakeToken({ site }: { site: Site }) {
  const client = useQueryClient();
  const [title, setTitle] = useState("");
  const [role, setRole] = useState("technician");
  const [key, setKey] = useState("");
  const [error, setError] = useState<unknown>(null);
  const go = async (e: FormEvent) => {
    e.preventDefault();
    setError(null);
    setKey("");
    try {
      const where = address("/api/v1/sites/{site_id}/tokens", { site_id: site.id });
      setKey(((await send("POST", where, { title, role })) as Token).key ?? "");
      setTitle("");
    } catch (x) {
      setError(x);
    }
    await renew(client, { site: site.id });
  };
  return (
    <form className="rowflex" onSubmit={(e) => void go(e)}>
      <div className="field">
        <label htmlFor="t-title">What it is for</label>
        <input id="t-title" required value={title} onChange={(e) => setTitle(e.target.value)} />
        {problemOf(error, "title") && <span className="bad">{problemOf(error, "title")}</span>}
      </div>
      <div className="field">
        <label htmlFor="t-role">May</label>
        <select id="t-role" value={role} onChange={(e) => setRole(e.target.value)}>
          {ROLES.map((r) => (
            <option key={r}>{r}</option>
          ))}
        </select>
      </div>
      <button className="btn-line">Make token</button>
      {!problemOf(error, "title") && <Complaint error={error} />}
      {key && (
        <p className="notice" role="status">
          Shown once, kept nowhere: <span className={`mono ${css.key}`}>{key}</span>
        </p>
      )}
    </form>
  );
}
