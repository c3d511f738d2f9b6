import { defineBench } from "../../safety";

export default defineBench({
  bench: "insulation",
  drawing: () => import("./Drawing").then((m) => m.Drawing),
  strip: () => import("./RunningStrip").then((m) => m.RunningStrip),
});
