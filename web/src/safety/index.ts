export { CallPage } from "./CallPage";
export { Gate, LiveOver, LiveStrip, MatterBox, Tags, useTagsBySet } from "./components";
export { HandOverPage } from "./HandOverPage";
export { ProofPanel } from "./ProofPanel";
export { useOffer, useSafeSheet, useSetPage, useSetSafety, useSiteSafety } from "./queries";
export { SetHangs, SetOffers } from "./SetBoxes";
export { PlantCalls } from "./PlantCalls";
export { NotToBeStarted } from "./Stops";
