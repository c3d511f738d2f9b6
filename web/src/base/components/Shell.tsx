/** The frame of every page: name, places, find, strips for what is waiting or wrong, sign-in over an ended session. */
import { useEffect, useRef, useState, type ReactNode } from "react";
import Modal from "react-bootstrap/Modal";
import { Link, NavLink, useLocation } from "react-router";
import { listKeys, useKeys, useQuiet } from "../keys";
import { outbox, type Parcel, type Refusal } from "../outbox";
import { useSession } from "../session";
import { onBlocked } from "../store";
import { SHOW_AGAIN } from "../tablet";
import { Fetched } from "./Fetched";
import { SignInHere } from "./SignIn";
import css from "../base.module.scss";

export interface Place {
  to: string;
  word: string;
}

/** Every word and figure in what was sent, so that it can be entered again. */
function wordsIn(value: unknown, name = ""): string[] {
  if (value === null || value === undefined || value === "") return [];
  if (Array.isArray(value)) return value.flatMap((v) => wordsIn(v, name));
  if (typeof value !== "object") return [`${name.replaceAll("_", " ")} ${String(value)}`.trim()];
  const entered = value as { text?: unknown; unit?: unknown };
  if (typeof entered.text === "string")
    return entered.text
      ? [`${name.replaceAll("_", " ")} ${entered.text} ${String(entered.unit ?? "")}`.trim()]
      : [];
  const hidden = ["uuid", "sheet", "set_id", "device", "seen", "kind", "taken_at"];
  return Object.entries(value).flatMap(([k, v]) => (hidden.includes(k) ? [] : wordsIn(v, k)));
}

/** Refused while nobody looked: it stays here until somebody has. */
function NotTaken({ refusal }: { refusal: Refusal }) {
  const words = wordsIn(refusal.body);
  return (
    <div className="strip bad" role="alert" data-testid="not-taken">
      <span>
        Not taken: {refusal.label}. {refusal.message}
      </span>
      {words.length > 0 && (
        <details>
          <summary>What was sent</summary>
          {words.join("; ")}
        </details>
      )}
      <button className="linklike" onClick={() => void outbox.putAside(refusal.id)}>
        Seen, put it aside
      </button>
    </div>
  );
}

export function Shell({
  places,
  find,
  strips,
  children,
}: {
  places: Place[];
  find: () => void;
  strips?: ReactNode;
  children: ReactNode;
}) {
  const { me, expired, connected, full, setPrefs, signOut } = useSession();
  const [waiting, setWaiting] = useState<Parcel[]>([]);
  const [keys, setKeys] = useState(false);
  const [blocked, setBlocked] = useState(false);
  useEffect(() => onBlocked(setBlocked), []);
  const [refused, setRefused] = useState<Refusal[]>([]);
  const [asks, setAsks] = useState<Parcel[]>([]);
  useEffect(
    () =>
      outbox.onChange((parcels, refusals, asking) => {
        setWaiting(parcels);
        setRefused(refusals);
        setAsks(asking);
      }),
    [],
  );
  // Another page: whoever goes on with the keyboard or by ear begins there, not at the masthead.
  const main = useRef<HTMLElement>(null);
  const { pathname } = useLocation();
  const last = useRef(pathname);
  useEffect(() => {
    if (last.current === pathname) return;
    last.current = pathname;
    const nowhere = [document.body, null].includes(document.activeElement as HTMLElement | null);
    if (nowhere) main.current?.focus({ preventScroll: true });
  }, [pathname]);
  const night = () => void setPrefs({ sheet: me?.sheet === "night" ? "light" : "night" });
  const [stays, setStays] = useState("");
  const leave = () => {
    setStays("");
    void signOut().catch((e: unknown) => setStays(e instanceof Error ? e.message : String(e)));
  };
  const showing = asks.length > 0 && !expired && me !== null;
  useQuiet(keys || showing || (expired && me !== null));
  useKeys([
    { key: "?", does: "show keyboard shortcuts", run: () => setKeys(true) },
    { key: "/", does: "find a pump set", run: find },
    { key: "n", does: "dark mode on or off", run: night },
  ]);
  return (
    <>
      {!connected && (
        <div className="strip" role="status">
          Nothing is lost: entries are stored on this device. Server not reachable; they are sent when it
          answers.
        </div>
      )}
      {full && (
        <div className="strip bad" role="alert">
          Not saved, kept here: the server’s disk is full. Entries are sent when there is room again.
        </div>
      )}
      {blocked && (
        <div className="strip" role="status">
          Another tab of this device still shows an older Hurbin and holds what is kept here: close or reload
          it, then this one sends.
        </div>
      )}
      {connected && waiting.length > 0 && !expired && (
        <div className="strip" role="status">
          Sending: {waiting.map((p) => p.label).join(", ")}
        </div>
      )}
      {stays && (
        <div className="strip bad" role="alert">
          Still signed in as {me?.full_name}. {stays}
        </div>
      )}
      {refused.map((r) => (
        <NotTaken key={r.id} refusal={r} />
      ))}
      {strips}
      <div className="paper">
        <header className={css.masthead}>
          <Link className={css.name} to="/">
            Hurbin
          </Link>
          <nav aria-label="Main menu">
            {places.map((p) => (
              <NavLink key={p.to} to={p.to} className={({ isActive }) => (isActive ? css.here : "")}>
                {p.word}
              </NavLink>
            ))}
          </nav>
          <div className={css.right}>
            <button className={css.findbox} onClick={find}>
              Find pump set <span className="mono">/</span>
            </button>
            {me?.shared && (
              <button className="btn-line" onClick={leave}>
                Switch person
              </button>
            )}
            <details className={css.who}>
              <summary>{me?.full_name}</summary>
              <div
                className={css.whobox}
                onClick={(e) => {
                  if (e.target instanceof HTMLButtonElement)
                    e.currentTarget.closest("details")?.removeAttribute("open");
                }}
              >
                <button className="linklike" onClick={night}>
                  {me?.sheet === "night" ? "Light mode" : "Dark mode"}
                </button>
                <button
                  className="linklike"
                  onClick={() => void setPrefs({ hand: me?.hand === "left" ? "right" : "left" })}
                >
                  Switch keypad to {me?.hand === "left" ? "right" : "left"} hand
                </button>
                <label>
                  Number and date format{" "}
                  <select
                    className="inline-select"
                    value={me?.locale}
                    onChange={(e) => void setPrefs({ locale: e.target.value })}
                  >
                    {["en-GB", "en-US", "de-DE", "fr-FR", "es-ES", "pt-PT", "nl-NL"].map((l) => (
                      <option key={l}>{l}</option>
                    ))}
                  </select>
                </label>
                <button className="linklike" onClick={() => setKeys(true)}>
                  Keyboard shortcuts
                </button>
                <Link to="/me">Your sign-in</Link>
                <button className="linklike" onClick={leave}>
                  Sign out
                </button>
              </div>
            </details>
          </div>
        </header>
        <main ref={main} tabIndex={-1}>
          {children}
        </main>
      </div>
      <Modal show={keys} onHide={() => setKeys(false)} aria-labelledby="keys-title">
        <Modal.Header>
          <h1 id="keys-title">Keyboard shortcuts</h1>
        </Modal.Header>
        <Modal.Body>
          {listKeys().map((k) => (
            <div className={css.keyrow} key={k.key + k.does}>
              <kbd>{k.ctrl ? `Ctrl ${k.key}` : k.key}</kbd>
              <span>{k.does}</span>
            </div>
          ))}
        </Modal.Body>
      </Modal>
      <Modal show={showing} backdrop="static" keyboard={false} aria-labelledby="show-title">
        <Modal.Body>{showing && <Fetched load={SHOW_AGAIN} with={{ asks }} />}</Modal.Body>
      </Modal>
      <Modal show={expired && me !== null} backdrop="static" keyboard={false} aria-labelledby="again-title">
        <Modal.Body>
          <h1 id="again-title">Session expired</h1>
          <p>Sign in again to continue. Nothing you entered is lost.</p>
          <SignInHere again={me?.username ?? ""} />
        </Modal.Body>
      </Modal>
    </>
  );
}
