import { defineBench } from "../../safety";

export default defineBench({
  bench: "fill",
  drawing: () => import("./Drawing").then((m) => m.Drawing),
});
