/** The sheet this device was last at: a started one is always one tap away, until it is on record or left. */
import { useEffect, useState } from "react";
import { useLocation } from "react-router";
import { benchPath, useBenches } from "./base";
import { useSet } from "./plant";

export interface Sheet {
  path: string;
  tag: string;
  title: string;
}
const KEY = "hurbin-under-way";

function read(): Sheet | null {
  try {
    const held = JSON.parse(localStorage.getItem(KEY) ?? "null") as Sheet | null;
    return held && typeof held.path === "string" ? held : null;
  } catch {
    return null;
  }
}

export function useUnderway(setId: number | null): Sheet | null {
  const { pathname, state } = useLocation();
  const [held, setHeld] = useState(read);
  const benches = useBenches().data;
  const title = benches?.find((b) => setId !== null && benchPath(setId, b.name) === pathname)?.title;
  const tag = useSet(title ? setId : null).data?.tag;
  // Saving and leaving a sheet both go back to its set, and say so.
  const over = state !== null && /^\/sets\/\d+$/.test(pathname);
  useEffect(() => {
    if (title && tag) {
      const now = { path: pathname, tag, title };
      localStorage.setItem(KEY, JSON.stringify(now));
      setHeld(now);
    } else if (over && read()?.path.startsWith(`${pathname}/`)) {
      localStorage.removeItem(KEY);
      setHeld(null);
    }
  }, [title, tag, pathname, over]);
  return held;
}
