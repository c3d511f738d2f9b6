/** The ladder with its joints: a row in hand carries its fields, the others what was read there. */
import { useMemo } from "react";
import { Spot, useNarrow } from "../../base";
import { Ladder } from "../circuit/Ladder";
import { layoutOf, type View as LadderView } from "../circuit/layout";
import { useTools } from "../../safety";
import { Placed } from "./Placed";
import { fieldOf } from "../spots";
import { placesOf, rowsOf, type Kind, type View } from "./sheet";
import css from "./drawing.module.scss";

interface Props {
  view: View;
  kind: Kind;
  row: string;
  take: (row: string) => void;
}
export function Rows({ view, kind, row, take }: Props) {
  const { given } = useTools();
  const narrow = useNarrow();
  const width = narrow ? Math.min(358, window.innerWidth - 32) : 600;
  const layout = useMemo(
    // Fields stand on the legs: a path beside the ladder would leave them no room.
    () => layoutOf(view.rungs, view.legs.length, width, { paths: view.paths, stacked: true }),
    [view.rungs, view.legs.length, view.paths, width],
  );
  const drawn = useMemo(
    (): Pick<LadderView, "elements" | "legs" | "spans" | "readings" | "ground" | "stands"> => ({
      elements: view.elements,
      legs: view.legs,
      spans: view.spans,
      readings: [],
      ground: false,
      stands: {},
    }),
    [view.elements, view.legs, view.spans],
  );
  const yOf = (id: string): number => {
    if (kind === "temp") return layout.rungs.get(id) ?? 0;
    return ((layout.rungs.get(`${id}.in`) ?? 0) + (layout.rungs.get(`${id}.out`) ?? 0)) / 2;
  };
  const rows = rowsOf(view, kind);
  const names = new Map([
    ...view.rungs.map((r) => [r.id, r.title] as const),
    ...view.elements.map((e) => [e.id, `Across ${e.name}`] as const),
  ]);
  return (
    <Spot className={css.stage} at={{ width: layout.width, height: layout.height }}>
      <Ladder view={drawn} layout={layout} label={`Joints of ${given.set.tag}`} />
      {rows
        .filter((id) => id !== row)
        .map((id) => (
          <Spot key={id} className={css.rowbutton} at={{ top: yOf(id) - 21, left: 0 }}>
            <button
              type="button"
              aria-label={`Read at ${names.get(id) ?? id}`}
              data-row={id}
              onClick={() => take(id)}
            />
          </Spot>
        ))}
      {view.joints
        .filter((j) => kind !== "temp" || !j.at.startsWith(`${row}.`))
        .map((j) => {
          const p = layout.at(j.at);
          return (
            p && (
              <Spot key={j.at} className={`mono ${css.read} v-${j.verdict}`} at={{ left: p.x + 9, top: p.y }}>
                <span data-joint={j.at}>
                  {narrow ? j.temp.figure : j.temp.shown}
                  {j.bare ? " bare" : ""}
                </span>
              </Spot>
            )
          );
        })}
      {view.drops
        .filter((d) => kind !== "drop" || !d.at.startsWith(`${row}.`))
        .map((d) => {
          const element = d.at.slice(0, d.at.lastIndexOf("."));
          const x = layout.legs[Number(d.at.slice(d.at.lastIndexOf(".") + 1)) - 1] ?? 0;
          const y =
            ((layout.rungs.get(`${element}.in`) ?? 0) + (layout.rungs.get(`${element}.out`) ?? 0)) / 2;
          return (
            <Spot key={d.at} className={`mono ${css.read} v-${d.verdict}`} at={{ left: x + 12, top: y }}>
              <span data-drop={d.at}>{narrow ? d.drop.figure : d.drop.shown}</span>
            </Spot>
          );
        })}
      {placesOf(row, view.legs.length).map((at, i) => (
        <Placed key={at} name={fieldOf(kind, at)} x={layout.legs[i] ?? 0} y={yOf(row)} />
      ))}
    </Spot>
  );
}
