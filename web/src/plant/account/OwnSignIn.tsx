/** One's own sign-in: another password, and an end to every other session. */
import { useState, type FormEvent } from "react";
import { Act, Complaint, problemOf, send, SENDING, small, useMe, useSession, type Schemas } from "../../base";
import css from "./account.module.scss";

/** Not through the outbox anywhere here: a password is never kept on the device. */
export function OwnSignIn() {
  const me = useMe();
  return (
    <section className={css.own} aria-labelledby="own-title">
      <h1 id="own-title">{me.must_change ? "Choose your own password" : "Your sign-in"}</h1>
      <p className="statesentence">
        {me.must_change
          ? "An admin made the password you came in with, and knows it. It opens this page and nothing else."
          : `${me.full_name}, signed in as ${me.username}. Your records carry this name.`}
      </p>
      <Password />
      {!me.must_change && <Elsewhere />}
    </section>
  );
}

function Password() {
  const { renewed } = useSession();
  const [old, setOld] = useState("");
  const [word, setWord] = useState("");
  const [error, setError] = useState<unknown>(null);
  const [busy, setBusy] = useState(false);
  const [done, setDone] = useState(false);
  const go = async (e: FormEvent) => {
    e.preventDefault();
    setError(null);
    setDone(false);
    setBusy(true);
    try {
      const fresh = await send("POST", "/api/v1/me/password", { old, new: word });
      setOld("");
      setWord("");
      setDone(true);
      await renewed(fresh as Schemas["SessionOut"]);
    } catch (x) {
      setError(x);
    } finally {
      setBusy(false);
    }
  };
  const line = (field: string) => {
    const said = problemOf(error, field);
    return said ? <span className="bad">{said}</span> : null;
  };
  return (
    <form className={css.turn} onSubmit={(e) => void go(e)}>
      <div className="field">
        <label htmlFor="own-old">Password now</label>
        <input
          id="own-old"
          type="password"
          autoComplete="current-password"
          required
          value={old}
          onChange={(e) => setOld(e.target.value)}
        />
        {line("old")}
      </div>
      <span className={css.arrow} aria-hidden="true">
        →
      </span>
      <div className="field">
        <label htmlFor="own-new">New password, 10 characters or more</label>
        <input
          id="own-new"
          type="password"
          autoComplete="new-password"
          required
          value={word}
          onChange={(e) => setWord(e.target.value)}
        />
        {line("password")}
      </div>
      <Act className="btn-ink" waits={busy && SENDING}>
        Change password
      </Act>
      {error !== null && !line("old") && !line("password") && <Complaint error={error} />}
      {done && (
        <p className={`notice ${css.wide}`} role="status">
          Changed. Every other session of yours has ended.
        </p>
      )}
    </form>
  );
}

function Elsewhere() {
  const [ended, setEnded] = useState<number | null>(null);
  const [error, setError] = useState<unknown>(null);
  const go = () =>
    void send("POST", "/api/v1/me/sessions/end").then(
      (told) => setEnded((told as Schemas["SessionsEnded"]).ended),
      setError,
    );
  return (
    <div className={`rowflex ${small.ruledRow}`}>
      <span className={small.from12}>A phone or tablet that is lost, or was left signed in</span>
      <button type="button" className="btn-line" onClick={go}>
        Sign out everywhere else
      </button>
      {ended !== null && (
        <span role="status" className="mute">
          {ended === 1 ? "1 session ended." : `${String(ended)} sessions ended.`}
        </span>
      )}
      <Complaint error={error} />
    </div>
  );
}
