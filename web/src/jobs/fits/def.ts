import { defineBench } from "../../safety";

export default defineBench({
  bench: "fits",
  drawing: () => import("./Drawing").then((m) => m.Drawing),
});
