import { defineBench } from "../../safety";

export default defineBench({
  bench: "bearing",
  drawing: () => import("./Drawing").then((m) => m.Drawing),
});
