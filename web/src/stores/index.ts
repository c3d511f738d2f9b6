import type { Later } from "../base";

export const VANS_PAGE: Later = () => import("./VansPage").then((m) => m.VansPage);
export const STORES_PAGE: Later = () => import("./StoresPage").then((m) => m.StoresPage);
