/** A figure of the row in hand, on its leg. */
import { FigureInput, Spot } from "../../base";
import { useFigure } from "../../safety";
import css from "./drawing.module.scss";

export function Placed({ name, x, y }: { name: string; x: number; y: number }) {
  const { props, refused } = useFigure(name);
  return (
    <Spot className={`${css.figure} ${refused ? "refused" : ""}`} at={{ left: x, top: y }}>
      <FigureInput {...props} units={[]} />
    </Spot>
  );
}
