import { defineBench } from "../../safety";

export default defineBench({
  bench: "fuses",
  drawing: () => import("./Drawing").then((m) => m.Drawing),
});
