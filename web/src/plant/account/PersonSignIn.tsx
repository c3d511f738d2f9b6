/** What an admin may do to somebody's sign-in, told in the line under the name. */
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { address, Complaint, renew, send, type Schemas } from "../../base";
import type { Site } from "../queries";
import css from "./account.module.scss";

type Person = Schemas["PersonOut"];

export function PersonSignIn({ site, person }: { site: Site; person: Person }) {
  const client = useQueryClient();
  const [said, setSaid] = useState("");
  const [word, setWord] = useState("");
  const [error, setError] = useState<unknown>(null);
  const of = { site_id: site.id, username: person.username };
  const go = async (does: () => Promise<unknown>, tell: (told: unknown) => string) => {
    setError(null);
    setSaid("");
    setWord("");
    try {
      setSaid(tell(await does()));
    } catch (e) {
      setError(e);
    }
    await renew(client, { site: site.id });
  };
  const counted = (told: unknown) => String((told as Schemas["DoneOut"]).n);
  return (
    <details>
      <summary className="mute">
        Sign-in: {person.may_sign_in ? "open" : "taken away"},{" "}
        {person.sessions === 1 ? "1 session" : `${String(person.sessions)} sessions`}
        {person.must_change && ", password to be changed"}
      </summary>
      <div className={css.does}>
        <button
          className="linklike"
          onClick={() =>
            void go(
              () => send("POST", address("/api/v1/sites/{site_id}/people/{username}/password", of)),
              (told) => {
                setWord((told as Schemas["OneTimeOut"]).password ?? "");
                return "All sessions ended. Password for one sign-in:";
              },
            )
          }
        >
          Reset password
        </button>
        <button
          className="linklike"
          onClick={() =>
            void go(
              () => send("POST", address("/api/v1/sites/{site_id}/people/{username}/sessions/end", of)),
              (told) => `Sessions ended: ${counted(told)}.`,
            )
          }
        >
          End sessions
        </button>
        <button
          className="linklike"
          onClick={() =>
            void go(
              () => send("POST", address("/api/v1/sites/{site_id}/people/{username}/lock-out/lift", of)),
              (told) =>
                counted(told) === "0" ? "Nobody is locked out of this sign-in." : "Can try again now.",
            )
          }
        >
          Lift lock-out
        </button>
        <button
          className="linklike"
          onClick={() =>
            void go(
              () =>
                send("PUT", address("/api/v1/sites/{site_id}/people/{username}/sign-in", of), {
                  active: !person.may_sign_in,
                }),
              () => (person.may_sign_in ? "Can no longer sign in." : "Can sign in again."),
            )
          }
        >
          {person.may_sign_in ? "Take sign-in away" : "Give sign-in back"}
        </button>
      </div>
      {said && (
        <p className="notice" role="status">
          {said}{" "}
          {word && (
            <>
              <span className={`mono ${css.key}`}>{word}</span> (shown once)
            </>
          )}
        </p>
      )}
      <Complaint error={error} />
    </details>
  );
}
