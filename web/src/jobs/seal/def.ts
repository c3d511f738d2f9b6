import { defineBench } from "../../safety";

export default defineBench({
  bench: "seal",
  drawing: () => import("./Drawing").then((m) => m.Drawing),
});
