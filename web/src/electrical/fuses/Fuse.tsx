/** One fuse between its clips: what is printed on it stands on it, its ohms beneath, open where it is blown. */
import { FigureInput, type EntryBody, type Schemas } from "../../base";
import { useFigure, useTools } from "../../safety";
import { Choose } from "../../safety";
import css from "./drawing.module.scss";

export type Body = EntryBody<"fuses">;
type View = Schemas["ShownFusesView"];
const DELAYS = [
  ["", "delay?"],
  ["delay", "time-delay"],
  ["fast", "fast"],
] as const;
const CLIPS = [
  ["", "clip?"],
  ["tight", "tight"],
  ["weak", "weak"],
  ["burnt", "burnt"],
] as const;

interface Props {
  fuse: View["fuses"][number];
  classes: View["classes"];
  body: Body;
  say: (more: Partial<Body>) => void;
}
export function Fuse({ fuse: f, classes, body, say }: Props) {
  const n = f.leg as 1 | 2 | 3;
  const said = { body, say };
  const wrong = (what: string) => (f.unlike.includes(what) ? css.unlike : "");
  const kinds = [["", "class?"] as const, ...Object.entries(classes)];
  return (
    <div className={css.fuse} data-fuse={n} data-state={f.state}>
      <strong>{f.name}</strong>
      <svg viewBox="0 0 120 34" aria-hidden="true" className={f.clip && f.clip !== "tight" ? css.tired : ""}>
        <path d="M60 0V10M40 10H80L84 34H36Z" />
      </svg>
      <div className={`${css.barrel} ${f.state === "blown" ? css.blown : ""}`}>
        <svg viewBox="0 0 120 30" aria-hidden="true">
          {f.state === "blown" ? (
            <path d="M60 0V8l-7 4M60 30V22l7 -4" />
          ) : (
            <path d="M60 0V6l8 4l-16 6l16 6l-8 4V30" />
          )}
        </svg>
        <span className={wrong("class")}>
          <Choose name={`class_${n}`} label={`Class ${f.name}`} options={kinds} {...said} />
        </span>
        <span className={wrong("delay")}>
          <Choose name={`delay_${n}`} label={`Delay ${f.name}`} options={DELAYS} {...said} />
        </span>
        <span className={wrong("rating")}>
          <Printed name={`amps_${n}`} unit="A" />
        </span>
        <span className={wrong("voltage")}>
          <Printed name={`volts_${n}`} unit="V" />
        </span>
        <span className={wrong("interrupting rating")}>
          <Printed name={`ka_${n}`} unit="kA" />
        </span>
      </div>
      <svg viewBox="0 0 120 34" aria-hidden="true" className={f.clip && f.clip !== "tight" ? css.tired : ""}>
        <path d="M36 0H84L80 24H40ZM60 24V34" />
      </svg>
      <Choose name={`clip_${n}`} label={`Clip ${f.name}`} options={CLIPS} {...said} />
      <Ohms name={`ohms_${n}`} />
    </div>
  );
}
function Printed({ name, unit }: { name: string; unit: string }) {
  const { props, refused } = useFigure(name);
  return (
    <span className={refused ? "refused" : ""}>
      <FigureInput {...props} units={[]} className={`mono ${css.printed}`} /> {unit}
    </span>
  );
}
function Ohms({ name }: { name: string }) {
  const { narrow } = useTools();
  const { props, refused } = useFigure(name);
  return (
    <span className={`${css.ohms} ${refused ? "refused" : ""}`}>
      <FigureInput {...props} {...(narrow ? { units: [] } : {})} />
    </span>
  );
}
