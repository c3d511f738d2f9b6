import { defineBench } from "../../safety";

export default defineBench({
  bench: "alignment",
  drawing: () => import("./Drawing").then((m) => m.Drawing),
  recorded: () => import("./VisitDrawn").then((m) => m.VisitDrawn),
});
