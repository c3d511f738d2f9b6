export { RunningCheckPage } from "./pages/RunningCheckPage";
