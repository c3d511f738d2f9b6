import { defineBench } from "../../base";

export default defineBench({
  bench: "vibration",
  page: () => import("./VibrationPage").then((m) => m.VibrationPage),
});
