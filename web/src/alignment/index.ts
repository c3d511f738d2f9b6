export { AlignmentPage } from "./AlignmentPage";
export { VisitDrawn } from "./VisitDrawn";
export { VibrationPage } from "./vibration/VibrationPage";
