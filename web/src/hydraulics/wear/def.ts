import { defineBench } from "../../safety";

export default defineBench({
  bench: "wear",
  drawing: () => import("./Drawing").then((m) => m.Drawing),
});
