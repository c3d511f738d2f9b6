/** What is fetched once it is wanted, in one. */
export { AtTablet } from "./AtTablet";
export { ShowAgain } from "./ShowAgain";
