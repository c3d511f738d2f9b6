import { defineBench } from "../../safety";

export default defineBench({
  bench: "direction",
  drawing: () => import("./Drawing").then((m) => m.Drawing),
});
