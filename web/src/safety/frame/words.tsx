/** What is said on a bench of this room: choices and figures in a sentence, a word that is confirmed. */
import { FigureInput } from "../../base";
import { useFigure } from "./BenchFigure";
import { useTools } from "./tools";

interface Said<B> {
  body: B;
  say: (more: Partial<B>) => void;
  label: string;
}
interface Props<B> extends Said<B> {
  name: keyof B & string;
  options: readonly (readonly [string, string])[];
  className?: string;
}
export function Choose<B>({ name, label, options, body, say, className = "inline-select" }: Props<B>) {
  const { may } = useTools();
  return (
    <select
      className={className}
      aria-label={label}
      disabled={!may}
      value={(body[name] as string | null | undefined) ?? ""}
      onChange={(e) => say({ [name]: e.target.value || null } as Partial<B>)}
    >
      {options.map(([value, words]) => (
        <option key={value} value={value}>
          {words}
        </option>
      ))}
    </select>
  );
}
export function Tick<B>({ name, label, body, say }: Said<B> & { name: keyof B & string }) {
  const { may } = useTools();
  return (
    <label className="confirm">
      <input
        type="checkbox"
        disabled={!may}
        checked={Boolean(body[name])}
        onChange={(e) => say({ [name]: e.target.checked || null } as Partial<B>)}
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

/** A line of words under its label. */
export function WordsField<B>({
  name,
  label,
  most,
  body,
  say,
}: Said<B> & { name: keyof B & string; most: number }) {
  const { may } = useTools();
  return (
    <div className="field">
      <label htmlFor={name}>{label}</label>
      <input
        id={name}
        maxLength={most}
        readOnly={!may}
        value={(body[name] as string | null | undefined) ?? ""}
        onChange={(e) => say({ [name]: e.target.value } as Partial<B>)}
      />
    </div>
  );
}
