import { defineBench } from "../../safety";

export default defineBench({
  bench: "lifting",
  drawing: () => import("./Drawing").then((m) => m.Drawing),
});
