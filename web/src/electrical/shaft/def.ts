import { defineBench } from "../../safety";

export default defineBench({
  bench: "shaft",
  drawing: () => import("./Drawing").then((m) => m.Drawing),
});
