import { defineBench } from "../../base";

export default defineBench({
  bench: "alignment",
  page: () => import("./AlignmentPage").then((m) => m.AlignmentPage),
  recorded: () => import("./VisitDrawn").then((m) => m.VisitDrawn),
});
