import type { Later } from "../base";
import type { SetOut } from "../plant";
import type { Proving } from "./ProofPanel";

export const CALL_PAGE: Later = () => import("./CallPage").then((m) => m.CallPage);
export const SET_HANGS: Later<{ set: SetOut }> = () => import("./SetHangs").then((m) => m.SetHangs);
export { Gate, LiveOver, LiveStrip, MatterBox, Tags, useTagsBySet } from "./components";
export const QUALIFIED: Later = () => import("./Qualified").then((m) => m.Qualified);
export const HAND_OVER_PAGE: Later = () => import("./HandOverPage").then((m) => m.HandOverPage);
export const PROOF_PANEL: Later<Proving> = () => import("./ProofPanel").then((m) => m.ProofPanel);
export {
  useOffer,
  useSafeSheet,
  useSetPage,
  useServed,
  useSetSafety,
  useSiteSafety,
  useTimeline,
} from "./queries";
export { PartHung } from "./PartHung";
export const READY_LIST: Later<{ set: SetOut }> = () => import("./ReadyList").then((m) => m.ReadyList);
export { SetBegin, SetOffers } from "./SetOffers";
export { PlantCalls } from "./PlantCalls";
export { NotToBeStarted } from "./Stops";
export {
  Bench,
  BenchFigure,
  Choose,
  Inline,
  Tick,
  WordsField,
  BenchPage,
  defineBench,
  definedBench,
  Derived,
  fieldId,
  hasFigures,
  NamedFigure,
  Note,
  opening,
  Photo,
  PutOnRecord,
  Reason,
  RecordEnd,
  Sending,
  standIn,
  TakenUp,
  ToolsGiven,
  useBench,
  useFigure,
  useOneEntry,
  useTools,
  Verdicts,
  type BenchDef,
  type Given,
  type Own,
  type Tools,
} from "./frame";
