import { defineBench } from "../../safety";

export default defineBench({
  bench: "rotor",
  drawing: () => import("./Drawing").then((m) => m.Drawing),
});
