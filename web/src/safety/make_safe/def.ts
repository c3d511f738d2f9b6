import { defineBench } from "../frame";

export default defineBench({
  bench: "make_safe",
  drawing: () => import("./Drawing").then((m) => m.Drawing),
});
