/** A page is seen once it stands whole: what it asks for first is waited for, as long as nobody would notice. */
import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useState, type ReactNode } from "react";
import small from "../small.module.scss";

/** What is waited for beside reads: a first verdict, a part of the program that is being fetched. */
let under = 0;
const listeners = new Set<() => void>();
/** Something that a page is not whole without is on its way; call what comes back once it is there, or failed. */
export function awaited(): () => void {
  let over = false;
  under += 1;
  return () => {
    if (over) return;
    over = true;
    under -= 1;
    listeners.forEach((heard) => heard());
  };
}

/** The letters it is written in: where a browser cannot tell of them there is nothing to wait for. */
const fonts = (): FontFaceSet | undefined => (document as { fonts?: FontFaceSet }).fonts;

const QUIET_MS = 30;
const LONGEST_MS = 800;

/** Its children are there from the start, and can be seen when nothing is on its way any more; another place begins anew. */
export function Settled({ place, children }: { place: string; children: ReactNode }) {
  const client = useQueryClient();
  const [seen, setSeen] = useState("");
  const settled = seen === place;
  useEffect(() => {
    if (settled) return;
    let quiet: ReturnType<typeof setTimeout>;
    let over = false;
    const show = () => setSeen(place);
    const look = () => {
      if (over) return;
      clearTimeout(quiet);
      quiet = setTimeout(() => {
        if (fonts()?.status === "loading") {
          void fonts()?.ready.then(look);
          return;
        }
        if (
          under === 0 &&
          !client.isFetching({ type: "active", predicate: (q) => q.state.data === undefined })
        )
          show();
      }, QUIET_MS);
    };
    const deaf = client.getQueryCache().subscribe(look);
    listeners.add(look);
    const longest = setTimeout(show, LONGEST_MS);
    look();
    return () => {
      over = true;
      deaf();
      listeners.delete(look);
      clearTimeout(quiet);
      clearTimeout(longest);
    };
  }, [place, settled, client]);
  return <div className={settled ? "" : small.unsettled}>{children}</div>;
}
