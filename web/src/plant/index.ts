import type { Later } from "../base";

export { Leaders } from "./components/Leaders";
export { Train, type TrainPart, type TrainTag } from "./components/Train";
/** Fetched when they are first wanted: the first load is Plant's. */
export const PARTS_PAGE: Later = () => import("./pages/PartsPage").then((m) => m.PartsPage);
export const OWN_SIGN_IN: Later = () => import("./account/OwnSignIn").then((m) => m.OwnSignIn);
export const REGISTER_PAGE: Later = () => import("./pages/RegisterPage").then((m) => m.RegisterPage);
export {
  chooseSite,
  chosenSite,
  findSets,
  useKind,
  useKinds,
  useRegister,
  useSet,
  useSites,
  type Component,
  type SetOut,
  type Site,
} from "./queries";
