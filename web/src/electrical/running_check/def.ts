import { defineBench } from "../../safety";

export default defineBench({
  bench: "running_check",
  drawing: () => import("./Drawing").then((m) => m.Drawing),
});
