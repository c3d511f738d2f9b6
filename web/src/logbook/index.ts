import type { Later } from "../base";
import type { Drawn } from "./pages/RecordPage";
import type { Slots } from "./pages/SetPage";

export { Differs } from "./components/Differs";
export { FindingBox } from "./components/FindingBox";
export { Judged } from "./components/Judged";
export { AddPicture, Pictures, useAttachments } from "./components/Pictures";
export { PLOT, TrendPlot } from "./components/TrendPlot";
export { PlantPage } from "./pages/PlantPage";
/** Fetched when they are first wanted: the first load is Plant's. */
export const RULES_PAGE: Later = () => import("./pages/RulesPage").then((m) => m.RulesPage);
export const READINGS_PAGE: Later = () => import("./pages/ReadingsPage").then((m) => m.ReadingsPage);
export const RECORD_PAGE: Later<Drawn> = () => import("./pages/RecordPage").then((m) => m.RecordPage);
export const SET_PAGE: Later<Slots> = () => import("./pages/SetPage").then((m) => m.SetPage);
export { usePlant, useRecord, useSetState, useTrends, type Plant, type PlantSet } from "./queries";
export { OpenedWithin, useBenchPage, useSaving, useWithin, type Mode, type Said } from "./saving";
