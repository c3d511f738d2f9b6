/** What is said of the measurement: choices in a sentence, figures in a sentence. */
import { FigureInput } from "../../base";
import { useFigure, useTools } from "../../safety";
import type { Body } from "./sheet";

type Say = (more: Partial<Body>) => void;
interface Props {
  name: keyof Body & string;
  label: string;
  options: readonly (readonly [string, string])[];
  body: Body;
  say: Say;
  className?: string;
}
export function Choose({ name, label, options, body, say, className = "inline-select" }: Props) {
  const { may } = useTools();
  return (
    <select
      className={className}
      aria-label={label}
      disabled={!may}
      value={(body[name] as string | null | undefined) ?? ""}
      onChange={(e) => say({ [name]: e.target.value || null } as Partial<Body>)}
    >
      {options.map(([value, words]) => (
        <option key={value} value={value}>
          {words}
        </option>
      ))}
    </select>
  );
}
export function Tick({
  name,
  label,
  body,
  say,
}: {
  name: "tone" | "drive_off";
  label: string;
  body: Body;
  say: Say;
}) {
  const { may } = useTools();
  return (
    <label className="confirm">
      <input
        type="checkbox"
        disabled={!may}
        checked={body[name] ?? false}
        onChange={(e) => say({ [name]: e.target.checked || null })}
      />{" "}
      {label}
    </label>
  );
}
/** A figure within a sentence. */
export function Inline({ name }: { name: string }) {
  const { props, refused } = useFigure(name);
  return (
    <span className={refused ? "refused" : ""}>
      <FigureInput {...props} className="inline-input mono short" />
    </span>
  );
}
