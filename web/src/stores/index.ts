export { VansPage } from "./VansPage";
