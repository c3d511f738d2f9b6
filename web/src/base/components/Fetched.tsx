/** What is fetched when it is first wanted: shown once it is there, asked for again when it could not be had. */
import { useEffect, useState, type ComponentType, type ReactNode } from "react";
import type { Later } from "../benches";
import { ApiError } from "../client";
import { awaited } from "./Settled";
import { Failed, Waiting } from "./States";

const held = new Map<unknown, ComponentType<never>>();

/** Fetch it now, for whenever it is wanted: in the pump room there may be no signal. */
export function fetchLater<P>(load: Later<P>): Promise<ComponentType<P> | undefined> {
  return load().then(
    (got) => {
      held.set(load, got as ComponentType<never>);
      return got;
    },
    (error: unknown) => {
      // No signal, most often; a page that breaks while it is read is to be seen, too.
      console.error(error);
      return undefined;
    },
  );
}

export function Fetched<P extends object>({
  load,
  with: given,
  quiet = false,
  meanwhile = quiet ? null : <Waiting what="Loading page" />,
}: {
  load: Later<P>;
  with: P;
  /** Nothing is said of it when it cannot be had. */
  quiet?: boolean;
  /** What stands there until then. */
  meanwhile?: ReactNode;
}) {
  const [, setGot] = useState(0);
  const [failed, setFailed] = useState(false);
  const Page = held.get(load) as ComponentType<P> | undefined;
  const [turn, setTurn] = useState(0);
  useEffect(() => {
    if (held.has(load)) return;
    let over = false;
    const there = quiet ? () => undefined : awaited();
    setFailed(false);
    void fetchLater(load).then((got) => {
      there();
      if (over) return;
      if (got) setGot((n) => n + 1);
      else setFailed(true);
    });
    return () => {
      there();
      over = true;
    };
  }, [load, turn, quiet]);
  useEffect(() => {
    const heard = () => setTurn((n) => n + 1);
    window.addEventListener("online", heard);
    return () => window.removeEventListener("online", heard);
  }, []);
  if (Page) return <Page {...given} />;
  if (quiet || !failed) return <>{meanwhile}</>;
  const error = new ApiError(0, "no_connection", "This page could not be fetched. What you typed is kept.");
  return <Failed error={error} again={() => setTurn((n) => n + 1)} />;
}
