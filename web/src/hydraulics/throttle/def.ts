import { defineBench } from "../../safety";

export default defineBench({
  bench: "throttle",
  drawing: () => import("./Drawing").then((m) => m.Drawing),
});
