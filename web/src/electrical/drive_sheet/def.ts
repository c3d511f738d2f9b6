import { defineBench } from "../../safety";

export default defineBench({
  bench: "drive_sheet",
  drawing: () => import("./Drawing").then((m) => m.Drawing),
});
