import { defineBench } from "../../safety";

export default defineBench({
  bench: "vacuum",
  drawing: () => import("./Drawing").then((m) => m.Drawing),
});
