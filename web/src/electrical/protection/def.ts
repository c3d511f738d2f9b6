import { defineBench } from "../../safety";

export default defineBench({
  bench: "protection",
  drawing: () => import("./Drawing").then((m) => m.Drawing),
});
