import { defineBench } from "../../safety";

export default defineBench({
  bench: "leads",
  drawing: () => import("./Drawing").then((m) => m.Drawing),
});
