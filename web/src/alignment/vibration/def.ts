import { defineBench } from "../../safety";

export default defineBench({
  bench: "vibration",
  drawing: () => import("./Drawing").then((m) => m.Drawing),
});
