import { defineBench } from "../../safety";

export default defineBench({
  bench: "duty",
  drawing: () => import("./Drawing").then((m) => m.Drawing),
});
