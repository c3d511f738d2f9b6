import type { Later } from "../base";

/** Fetched when it is first wanted. */
export const LOOPS_PAGE: Later = () => import("./loops/LoopsPage").then((m) => m.LoopsPage);

export { useSheet } from "./useSheet";
