/** Who is at the tablet now: the names hang on a rail like keys, and the one taken down is asked for its PIN. */
import { useCallback, useEffect, useState } from "react";
import { ApiError, send, type Schemas } from "../client";
import { Complaint, Waiting } from "../components/States";
import { useSession } from "../session";
import { setTablet } from ".";
import { PinPad } from "./PinPad";
import css from "./tablet.module.scss";

type Here = Schemas["TabletHereOut"];

export function AtTablet({ otherwise }: { otherwise: () => void }) {
  const { signIn } = useSession();
  const [here, setHere] = useState<Here | null>(null);
  const [failed, setFailed] = useState<unknown>(null);
  const [who, setWho] = useState("");
  const load = useCallback(
    () =>
      send("GET", "/api/v1/tablet").then((told) => {
        const found = told as Here;
        setFailed(null);
        setHere(found);
        if (found.title) return;
        setTablet(false);
        otherwise();
      }, setFailed),
    [otherwise],
  );
  useEffect(() => {
    void load();
  }, [load]);
  if (failed)
    return (
      <section className={css.at}>
        <Complaint error={failed} />
        <p className="rowflex">
          <button className="btn-line" onClick={() => void load()}>
            Try again
          </button>
          <button className="linklike" onClick={otherwise}>
            Sign in with a password
          </button>
        </p>
      </section>
    );
  if (!here?.title) return <Waiting what="Loading who shares this tablet" />;
  const people = here.people ?? [];
  const chosen = people.find((p) => p.username === who);
  const go = async (pin: string) => {
    try {
      await signIn({ username: who, pin });
    } catch (e) {
      // Another one was that wrong PIN's last: the rail says whose rests.
      if (e instanceof ApiError && e.code !== "pin_wrong") void load();
      throw e;
    }
  };
  return (
    <section className={css.at} aria-labelledby="at-title">
      <h1 id="at-title">Who is here?</h1>
      <p className="mute">
        {here.title}, {here.site}: a shared tablet. What you do here is kept in your name.
      </p>
      <div className={css.halves}>
        <ul className={css.rail}>
          {people.map((p) => (
            <li key={p.username}>
              <button
                className={p.username === who ? css.down : css.plate}
                aria-pressed={p.username === who}
                onClick={() => setWho(p.username)}
              >
                {p.full_name}
                {p.rests && <span className="mute">PIN rests: password</span>}
              </button>
            </li>
          ))}
        </ul>
        <div className={css.right}>
          {chosen && !chosen.rests && (
            <PinPad key={who} label={`PIN of ${chosen.full_name}`} does="Come in" go={go} />
          )}
          {chosen?.rests && (
            <p>
              Too many wrong PINs were tried for {chosen.full_name}. The password opens, and wakes the PIN.
            </p>
          )}
          {!chosen && (
            <p className="statesentence">
              {people.length
                ? "Tap your name, then enter your PIN."
                : "Nobody has chosen a PIN yet. Sign in with your password, then choose one under Your sign-in."}
            </p>
          )}
          <button className="linklike" onClick={otherwise}>
            {chosen ? "Sign in with a password" : "Not on the rail? Sign in with a password"}
          </button>
        </div>
      </div>
    </section>
  );
}
