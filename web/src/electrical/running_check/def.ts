import { defineBench } from "../../base";

export default defineBench({
  bench: "running_check",
  page: () => import("./RunningCheckPage").then((m) => m.RunningCheckPage),
});
