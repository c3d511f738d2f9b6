import { defineBench } from "../../safety";

export default defineBench({
  bench: "sump",
  drawing: () => import("./Drawing").then((m) => m.Drawing),
});
