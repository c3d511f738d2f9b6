import { defineBench } from "../../base";

export default defineBench({
  bench: "insulation",
  page: () => import("./InsulationPage").then((m) => m.InsulationPage),
  strip: () => import("./RunningStrip").then((m) => m.RunningStrip),
});
