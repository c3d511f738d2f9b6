import { defineBench } from "../../safety";

export default defineBench({
  bench: "job",
  drawing: () => import("./Drawing").then((m) => m.Drawing),
  recorded: () => import("./Recorded").then((m) => m.Recorded),
});
