/** A figure of this bench at its place on the drawing, with what it was last time behind it. */
import { FigureInput, Spot } from "../../base";
import { useFigure, useTools } from "../../safety";
import css from "./drawing.module.scss";

interface Props {
  name: string;
  x: number;
  y: number;
  /** Its unit stands elsewhere on the drawing. */
  bare?: boolean;
}
export function Placed({ name, x, y, bare = false }: Props) {
  const { answer, narrow } = useTools();
  const { props, refused } = useFigure(name);
  const ghost = answer?.ghosts.find((g) => g.field === name);
  return (
    <Spot
      className={`${css.figure} ${bare ? css.bare : ""} ${refused ? "refused" : ""}`}
      at={{ left: x, top: y }}
    >
      <FigureInput {...props} unitClass="unit" {...(bare || narrow ? { units: [] } : {})} />
      {ghost && <span className="ghost mono">{ghost.text}</span>}
    </Spot>
  );
}
