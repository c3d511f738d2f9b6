/** A browser that several people share: what every page has to know of it; the rest is fetched when wanted. */
import type { Later } from "../benches";
import type { Parcel } from "../outbox";

export const AT_TABLET: Later<{ otherwise: () => void }> = () => import("./screens").then((m) => m.AtTablet);
export const SHOW_AGAIN: Later<{ asks: Parcel[] }> = () => import("./screens").then((m) => m.ShowAgain);

/** The key itself is in a cookie that no script reads; this says only that it is worth asking. */
const MARK = "hurbin-tablet";
export function isTablet(): boolean {
  try {
    return localStorage.getItem(MARK) !== null;
  } catch {
    return false;
  }
}
export function setTablet(is: boolean) {
  try {
    if (is) localStorage.setItem(MARK, "1");
    else localStorage.removeItem(MARK);
  } catch {
    // A browser that keeps nothing asks for the password each time.
  }
}
