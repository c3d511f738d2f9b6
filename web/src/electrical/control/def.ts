import { defineBench } from "../../safety";

export default defineBench({
  bench: "control",
  drawing: () => import("./Drawing").then((m) => m.Drawing),
});
