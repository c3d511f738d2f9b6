import { defineBench } from "../../safety";

export default defineBench({
  bench: "bolts",
  drawing: () => import("./Drawing").then((m) => m.Drawing),
});
