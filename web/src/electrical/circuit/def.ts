import { defineBench } from "../../safety";

export default defineBench({
  bench: "circuit",
  drawing: () => import("./Drawing").then((m) => m.Drawing),
  recorded: () => import("./WalkDrawn").then((m) => m.WalkDrawn),
});
