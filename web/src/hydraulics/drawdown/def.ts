import { defineBench } from "../../safety";

export default defineBench({
  bench: "drawdown",
  drawing: () => import("./Drawing").then((m) => m.Drawing),
});
