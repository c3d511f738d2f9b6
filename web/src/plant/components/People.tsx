/** Who may do what on this site. */
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import {
  address,
  Complaint,
  outbox,
  problemOf,
  Ready,
  renew,
  send,
  small,
  useDraft,
  useGet,
  useMe,
  type Schemas,
} from "../../base";
import type { Site } from "../queries";
import { PersonSignIn } from "../account/PersonSignIn";
import account from "../account/account.module.scss";
import css from "../plant.module.scss";

type Person = Schemas["PersonOut"];
const ROLES = ["viewer", "technician", "lead", "admin"];

export function People({ site }: { site: Site }) {
  const people = useGet("/api/v1/sites/{site_id}/people", { site_id: site.id });
  const client = useQueryClient();
  const [error, setError] = useState<unknown>(null);
  const change = async (p: Person, edit: Schemas["PersonEdit"]) => {
    setError(null);
    try {
      await outbox.write(
        "PATCH",
        address("/api/v1/sites/{site_id}/people/{username}", { site_id: site.id, username: p.username }),
        edit,
        `role of ${p.username}`,
      );
    } catch (e) {
      setError(e);
    }
    await renew(client, { site: site.id });
  };
  return (
    <section className="ruled" aria-labelledby="people-title">
      <h2 id="people-title">People</h2>
      <Ready query={people}>
        {(list) => (
          <>
            {list.map((p) => (
              <div className={account.person} key={p.username}>
                <div className="rowflex" data-person={p.username}>
                  <span className={p.active ? small.from12 : `${small.from12} ${small.struck}`}>
                    {p.full_name} <span className="mute">{p.username}</span>
                  </span>
                  <select
                    className="inline-select"
                    aria-label={`Role of ${p.username}`}
                    value={p.role}
                    onChange={(e) => void change(p, { role: e.target.value as "viewer" })}
                  >
                    {ROLES.map((r) => (
                      <option key={r}>{r}</option>
                    ))}
                  </select>
                  <button className="linklike" onClick={() => void change(p, { active: !p.active })}>
                    {p.active ? "End access" : "Restore access"}
                  </button>
                </div>
                <PersonSignIn site={site} person={p} />
              </div>
            ))}
          </>
        )}
      </Ready>
      <Complaint error={error} />
      <AddPerson site={site} />
    </section>
  );
}

function AddPerson({ site }: { site: Site }) {
  const me = useMe();
  const client = useQueryClient();
  const [start] = useState({ username: "", full_name: "", role: "technician" });
  const draft = useDraft(`${me.username}:person:${site.id}`, start);
  const [word, setWord] = useState("");
  const [made, setMade] = useState<Person | null>(null);
  const [error, setError] = useState<unknown>(null);
  const v = draft.value;
  const go = async () => {
    setError(null);
    try {
      // Not through the outbox: a password is never kept on the device.
      setMade(
        (await send("POST", address("/api/v1/sites/{site_id}/people", { site_id: site.id }), {
          ...v,
          password: word,
        })) as Person,
      );
      draft.done(start);
      setWord("");
      await renew(client, { site: site.id });
    } catch (e) {
      setError(e);
    }
  };
  return (
    <form
      className="rulebox"
      onSubmit={(e) => {
        e.preventDefault();
        void go();
      }}
    >
      <div className={css.namegrid}>
        <div className="field">
          <label htmlFor="p-name">User name</label>
          <input
            id="p-name"
            autoCapitalize="none"
            value={v.username}
            onChange={(e) => draft.change({ ...v, username: e.target.value })}
          />
          {problemOf(error, "username") && <span className="bad">{problemOf(error, "username")}</span>}
        </div>
        <div className="field">
          <label htmlFor="p-full">Full name</label>
          <input
            id="p-full"
            value={v.full_name}
            onChange={(e) => draft.change({ ...v, full_name: e.target.value })}
          />
        </div>
        <div className="field">
          <label htmlFor="p-role">Role</label>
          <select id="p-role" value={v.role} onChange={(e) => draft.change({ ...v, role: e.target.value })}>
            {ROLES.map((r) => (
              <option key={r}>{r}</option>
            ))}
          </select>
        </div>
        <div className="field">
          <label htmlFor="p-word">Password (leave empty to generate one)</label>
          <input
            id="p-word"
            type="password"
            autoComplete="new-password"
            value={word}
            onChange={(e) => setWord(e.target.value)}
          />
        </div>
      </div>
      <Complaint error={error} />
      {made && (
        <p className="notice">
          {made.full_name} can sign in as <span className="mono">{made.username}</span>
          {made.password && (
            <>
              , password <span className="mono">{made.password}</span> (shown once)
            </>
          )}
          .
        </p>
      )}
      <div className="savebar">
        <button className="btn-line">Add person</button>
      </div>
    </form>
  );
}
