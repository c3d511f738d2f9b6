import { defineBench } from "../../base";

export default defineBench({
  bench: "make_safe",
  page: () => import("./MakeSafePage").then((m) => m.MakeSafePage),
});
