export { InsulationPage } from "./insulation/InsulationPage";
export { RunningStrip } from "./insulation/RunningStrip";
export { RunningCheckPage } from "./pages/RunningCheckPage";
