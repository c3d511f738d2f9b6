export { FindingBox } from "./components/FindingBox";
export { Judged } from "./components/Judged";
export { TrendPlot } from "./components/TrendPlot";
export { PlantPage } from "./pages/PlantPage";
export { RecordPage } from "./pages/RecordPage";
export { RulesPage } from "./pages/RulesPage";
export { SetPage } from "./pages/SetPage";
export { usePlant, useRecord, useTrends, type Plant, type PlantSet } from "./queries";
export { ReadingsPage } from "./pages/ReadingsPage";
