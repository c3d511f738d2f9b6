/** One's own sign-in: another password, and an end to every other session. */
import { useState } from "react";
import { Complaint, send, small, useMe, type Schemas } from "../../base";
import { Turn } from "./Turn";
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
      {!me.must_change && <Pin />}
      {!me.must_change && <Elsewhere />}
    </section>
  );
}

function Password() {
  return (
    <Turn
      id="own"
      path="/api/v1/me/password"
      from={{ label: "Password now", name: "old", complete: "current-password" }}
      to={{
        label: "New password, 10 characters or more",
        name: "new",
        refusedAs: "password",
        complete: "new-password",
      }}
      does="Change password"
      done="Changed. Every other session of yours has ended."
    />
  );
}

const OPENS =
  "On a shared tablet you come in by it, and show at a lock that it is you. It opens nothing else.";
const PIN_SAID = {
  none: `None yet. ${OPENS}`,
  set: `Chosen. ${OPENS}`,
  rests:
    "It rests: too many wrong ones were tried. Sign in with your password to wake it, or choose another.",
};
function Pin() {
  const { pin } = useMe();
  return (
    <section aria-labelledby="pin-title">
      <h2 id="pin-title">PIN for shared tablets</h2>
      <p className="mute">{PIN_SAID[pin]}</p>
      <Turn
        id="pin"
        path="/api/v1/me/pin"
        from={{ label: "Your password", name: "password", complete: "current-password" }}
        to={{ label: "PIN, 4 to 8 digits", name: "pin", complete: "off", mode: "numeric" }}
        does={pin === "none" ? "Choose PIN" : "Change PIN"}
        done="PIN chosen."
        {...(pin === "none" ? {} : { drop: { does: "Remove PIN", done: "PIN removed." } })}
      />
    </section>
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
