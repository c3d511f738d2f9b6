import type { Later } from "../base";

/** Fetched when it is first wanted. */
export const DRIVES_PAGE: Later = () => import("./drives/DrivesPage").then((m) => m.DrivesPage);
