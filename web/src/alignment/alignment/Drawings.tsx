/** Both planes of the shafts as they lie, turned to where you stand; the flange where it is read by feelers. */
import type { Schemas, Shown } from "../../base";
import { NamedFigure } from "../../safety";
import type { Figure, Method, Stand } from "./logic";
import { FlangeDrawing, ShaftDrawing } from "./shafts";
import css from "./drawing.module.scss";

const MEASURES: [Figure, string][] = [
  ["face_diameter", "face diameter (where the gap is read)"],
  ["x_front", "face to front feet"],
  ["x_rear", "face to rear feet"],
];
interface Props {
  method: Method;
  answer: Shown<Schemas["ShownAlignmentView"]> | null;
  stand: Stand;
  /** The figure in hand, where there is room for its plane alone. */
  held: string | null;
  /** Room for the set's measures on the drawing. */
  wide: boolean;
}
export function Drawings({ method, answer, stand, held, wide }: Props) {
  const values = answer?.values ?? {};
  if (method === "flange") return <FlangeDrawing values={values} />;
  const [side, top] = answer?.view.shafts ?? [];
  const only = held ? (/_(3|9)$|_h$/.test(held) ? "top" : "side") : "both";
  const turned = stand === "right";
  const says = (offset: string, angle: string) =>
    values[angle] ? `${values[offset]?.shown ?? ""} · ${values[angle].shown}` : "";
  return (
    <div className={css.drawings}>
      {side && only !== "top" && (
        <ShaftDrawing shaft={side} title="Side view" turned={turned} says={says("offset_v", "angle_v")}>
          {wide && (
            <div className={css.dimrow}>
              {MEASURES.map(([n, label]) => (
                <NamedFigure key={n} name={n} label={label} />
              ))}
            </div>
          )}
        </ShaftDrawing>
      )}
      {top && only !== "side" && (
        <ShaftDrawing
          shaft={top}
          title="Top view"
          turned={turned}
          over={turned}
          says={says("offset_h", "angle_h")}
        />
      )}
    </div>
  );
}
