import type { Later } from "../base";

/** Each fetched when it is first wanted. */
export const WORK_PAGE: Later = () => import("./pages/WorkPage").then((m) => m.WorkPage);
export const ANATOMY_PAGE: Later = () => import("./pages/AnatomyPage").then((m) => m.AnatomyPage);
export const PROCEDURES_PAGE: Later = () => import("./pages/ProceduresPage").then((m) => m.ProceduresPage);
export const BACK_PAGE: Later = () => import("./pages/BackPage").then((m) => m.BackByLabel);
