/** Who is signed in, the server's clock, and what happens when the session ends in the middle of something. */
import { useQueryClient } from "@tanstack/react-query";
import { createContext, useCallback, useContext, useEffect, useMemo, useState, type ReactNode } from "react";
import { DeviceClock } from "./clock";
import { ApiError, onAnswer, send, setCsrf, type Schemas } from "./client";
import { useChanges } from "./changes";
import { dropKept } from "./kept";
import { outbox } from "./outbox";

export type Me = Schemas["Me"];
type Session = Schemas["SessionOut"];
interface Held {
  me: Me | null;
  expired: boolean;
  connected: boolean;
  /** The server has no room to write anything down. */
  full: boolean;
  demo: boolean;
  rules: string;
  now: () => Date;
  signIn: (who: { username: string; password: string } | { username: string; pin: string }) => Promise<void>;
  signOut: () => Promise<void>;
  /** Another session than before, of the same person. */
  renewed: (fresh: Session) => Promise<void>;
  setPrefs: (prefs: Partial<Pick<Me, "units" | "locale" | "sheet" | "hand">>) => Promise<void>;
}
const Context = createContext<Held | null>(null);

export function useSession(): Held {
  const held = useContext(Context);
  if (!held) throw new Error("useSession outside of SessionProvider");
  return held;
}
/** The signed-in person; only for pages behind the sign-in. */
export function useMe(): Me {
  const { me } = useSession();
  if (!me) throw new Error("nobody is signed in");
  return me;
}

export function SessionProvider({
  children,
}: {
  children: (loading: boolean, failed: ApiError | null) => ReactNode;
}) {
  const [session, setSession] = useState<Session | null>(null);
  const [offset, setOffset] = useState(0);
  const [failed, setFailed] = useState<ApiError | null>(null);
  const [expired, setExpired] = useState(false);
  const [connected, setConnected] = useState(true);
  const [full, setFull] = useState(false);
  const client = useQueryClient();

  const [device] = useState(() => new DeviceClock());
  const clock = useCallback(
    (iso: string, asked: number, heard: number) => {
      if (!device.measure(iso, asked, heard)) return;
      setOffset(device.off);
      outbox.clockOff(device.off);
    },
    [device],
  );
  const take = useCallback(
    (fresh: Session, asked = Date.now()) => {
      setCsrf(fresh.csrf, fresh.me?.username ?? "");
      clock(fresh.now, asked, Date.now());
      setSession(fresh);
      setFailed(null);
      if (fresh.me) {
        setExpired(false);
        outbox.signedIn(fresh.me.username);
      }
    },
    [clock],
  );
  const shut = expired || (session?.me?.must_change ?? false);
  useChanges(shut ? "" : (session?.me?.username ?? ""), clock);

  useEffect(() => {
    onAnswer((status, code, wrote) => {
      // Reading goes on while a disk is full: only what is written next tells that there is room again.
      if (wrote) setFull(code === "disk_full");
      setConnected(status !== 0 && code !== "database_gone");
      if (status === 401 && code === "signed_out") {
        outbox.pause();
        setExpired(true);
      }
    });
    const cut = () => setConnected(false);
    window.addEventListener("offline", cut);
    const load = () => {
      const asked = Date.now();
      send("GET", "/api/v1/session")
        .then((s) => take(s as Session, asked))
        .catch((e: unknown) => {
          setFailed(e instanceof ApiError ? e : new ApiError(0, "failed", String(e)));
          setTimeout(load, 4000);
        });
    };
    load();
    return () => window.removeEventListener("offline", cut);
  }, [take]);

  useEffect(() => {
    document.documentElement.dataset.sheet = session?.me?.sheet ?? "light";
  }, [session?.me?.sheet]);

  const held = useMemo<Held>(
    () => ({
      me: session?.me ?? null,
      expired,
      connected,
      full,
      demo: session?.demo ?? false,
      rules: session?.rules_version ?? "",
      now: () => new Date(Date.now() + offset),
      signIn: async (who) => {
        // A token from before the session ended no longer counts: take a fresh one first.
        setCsrf(((await send("GET", "/api/v1/session")) as Session).csrf);
        take((await send("POST", `/api/v1/${"pin" in who ? "tablet/" : ""}session`, who)) as Session);
        await client.invalidateQueries();
      },
      renewed: async (fresh) => {
        take(fresh);
        await client.invalidateQueries();
      },
      signOut: async () => {
        // What waits is this person's: it is sent when he is back, and not as the next one's.
        outbox.pause();
        try {
          take((await send("DELETE", "/api/v1/session")) as Session);
        } catch (e) {
          outbox.resume();
          throw e;
        }
        client.clear();
        await dropKept().catch(() => undefined);
      },
      setPrefs: async (prefs) => {
        // At once, not when the server has answered: the next field must not be typed in the unit before.
        setSession((old) =>
          old?.me ? { ...old, me: { ...old.me, ...prefs, units: { ...old.me.units, ...prefs.units } } } : old,
        );
        const me = (await send("PATCH", "/api/v1/me", prefs)) as Me;
        setSession((old) => (old ? { ...old, me } : old));
        await client.invalidateQueries();
      },
    }),
    [session, expired, connected, full, offset, take, client],
  );
  return <Context.Provider value={held}>{children(session === null, failed)}</Context.Provider>;
}
