import { Act } from "./Act";
import { useCallback, useState, type FormEvent } from "react";
import { useGoing } from "../going";
import { useSession } from "../session";
import { AT_TABLET, isTablet } from "../tablet";
import { Fetched } from "./Fetched";
import { Complaint } from "./States";
import css from "../base.module.scss";

/** Sign in; also over a page whose session ended, which stays as it is behind it. */
export function SignInForm({ again = "" }: { again?: string }) {
  const { signIn } = useSession();
  const [name, setName] = useState(again);
  const [word, setWord] = useState("");
  const { busy, error, go } = useGoing();
  const submit = (e: FormEvent) => {
    e.preventDefault();
    void go(() => signIn({ username: name.trim(), password: word }));
  };
  return (
    <form onSubmit={submit}>
      <div className="field">
        <label htmlFor="who">User name</label>
        <input
          id="who"
          autoComplete="username"
          autoCapitalize="none"
          value={name}
          onChange={(e) => setName(e.target.value)}
          required
          autoFocus={!again}
        />
      </div>
      <div className="field">
        <label htmlFor="word">Password</label>
        <input
          id="word"
          type="password"
          autoComplete="current-password"
          value={word}
          onChange={(e) => setWord(e.target.value)}
          required
          autoFocus={Boolean(again)}
        />
      </div>
      <Complaint error={error} />
      <Act className="btn-ink" waits={busy && "Signing in…"}>
        Sign in
      </Act>
    </form>
  );
}
/** By a password; on a tablet of several people by their PINs, until somebody wants it otherwise. */
export function SignInHere({ again = "" }: { again?: string }) {
  const [shared, setShared] = useState(isTablet);
  const otherwise = useCallback(() => setShared(false), []);
  if (shared) return <Fetched load={AT_TABLET} with={{ otherwise }} />;
  if (again) return <SignInForm again={again} />;
  return (
    <div className={css.signin}>
      <h1>Hurbin</h1>
      <p className="mute">Which pump needs attention next, and why.</p>
      <SignInForm />
    </div>
  );
}
export function SignInPage() {
  return (
    <main className="paper">
      <SignInHere />
    </main>
  );
}
