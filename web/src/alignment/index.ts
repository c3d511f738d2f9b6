export { AlignmentPage } from "./AlignmentPage";
