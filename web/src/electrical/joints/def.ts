import { defineBench } from "../../safety";

export default defineBench({
  bench: "joints",
  drawing: () => import("./Drawing").then((m) => m.Drawing),
});
