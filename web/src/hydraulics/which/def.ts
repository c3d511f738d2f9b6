import { defineBench } from "../../safety";

export default defineBench({
  bench: "which",
  drawing: () => import("./Drawing").then((m) => m.Drawing),
});
