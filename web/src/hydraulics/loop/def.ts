import { defineBench } from "../../safety";

export default defineBench({
  bench: "loop",
  drawing: () => import("./Drawing").then((m) => m.Drawing),
});
