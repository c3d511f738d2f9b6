import { defineBench } from "../../safety";

export default defineBench({
  bench: "suction",
  drawing: () => import("./Drawing").then((m) => m.Drawing),
});
