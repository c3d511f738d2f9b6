import type { Later } from "../base";

export { ReadWith } from "./ReadWith";
export { handOfRecord, useNamed, useRegisterOf, type Named } from "./queries";
export { band, gap, stretch, type Stretch } from "./logic";
export { Board, Lane } from "./Board";
export { Day } from "./Day";
export const INSTRUMENTS_PAGE: Later<{ people: import("react").ReactNode }> = () =>
  import("./InstrumentsPage").then((m) => m.InstrumentsPage);
