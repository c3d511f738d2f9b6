/** From each part of the drawn train to what stands beneath it, while all of that stands in one row: no line crosses one. */
import { useEffect, useState, type RefObject } from "react";
import { partPlaces } from "./Train";
import css from "../plant.module.scss";

interface Props {
  /** Around both; the train is the first drawing in it. */
  box: RefObject<HTMLDivElement | null>;
  posture: string;
  slots: string[];
  /** What stands beneath carries its part in this data attribute. */
  to: "callout" | "at";
  tone?: (part: string) => string;
}
export function Leaders({ box, posture, slots, to, tone }: Props) {
  const [lines, setLines] = useState<{ part: string; path: string }[]>([]);
  useEffect(() => {
    const host = box.current;
    if (!host) return;
    const places = partPlaces(posture, slots);
    const measure = () => {
      const at = host.getBoundingClientRect();
      const train = host.querySelector("svg")?.getBoundingClientRect();
      const beneath = [...host.querySelectorAll<HTMLElement>(`[data-${to}]`)].map((e) => ({
        part: e.dataset[to] ?? "",
        box: e.getBoundingClientRect(),
      }));
      const row = beneath[0]?.box.top;
      if (!train || beneath.some((c) => c.box.top !== row)) {
        setLines([]);
        return;
      }
      const top = train.bottom - at.top;
      setLines(
        beneath
          .filter((c) => places[c.part] !== undefined)
          .map((c) => {
            const [from, end] = [
              train.left - at.left + (places[c.part] ?? 0) * train.width,
              c.box.left - at.left,
            ];
            const [low, bottom] = [top + 6, c.box.top - at.top];
            return {
              part: c.part,
              path: `M${from + 0.5} ${top - 8}V${low}L${end + 0.5} ${bottom - 4}V${bottom}`,
            };
          }),
      );
    };
    measure();
    const watch = new ResizeObserver(measure);
    watch.observe(host);
    return () => watch.disconnect();
  }, [box, posture, slots, to]);
  return (
    <svg className={css.leaders} aria-hidden="true">
      {lines.map((l) => (
        <path key={l.part} className={tone?.(l.part) ?? "v-none"} d={l.path} />
      ))}
    </svg>
  );
}
