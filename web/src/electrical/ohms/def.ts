import { defineBench } from "../../safety";

export default defineBench({
  bench: "ohms",
  drawing: () => import("./Drawing").then((m) => m.Drawing),
});
