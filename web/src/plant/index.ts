export { PlateForm } from "./components/PlateForm";
export { partPlaces, Train, type TrainPart, type TrainTag } from "./components/Train";
export { PartsPage } from "./pages/PartsPage";
export { RegisterPage } from "./pages/RegisterPage";
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
