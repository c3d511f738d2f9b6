import { defineBench } from "../../safety";

export default defineBench({
  bench: "rings",
  drawing: () => import("./Drawing").then((m) => m.Drawing),
});
