/** One source where it is drawn: its device and how it is isolated, or that there is none of it here. */
import { type Schemas } from "../../base";
import type { SetOut } from "../../plant";
import { useSafetyWords } from "../queries";
import css from "./drawing.module.scss";

export type Line = Schemas["IsolationSource"];
type Kind = Schemas["SourceKindOut"];
/** What the list is told. */
export interface Say {
  add: (kind: string, more: Partial<Line>) => void;
  change: (id: string, more: Partial<Line>) => void;
  drop: (id: string) => void;
  /** On to the next one that is not answered. */
  next: () => void;
}
interface Props {
  kind: Kind;
  line: Line | null;
  usual: Schemas["Proposed"] | undefined;
  set: SetOut;
  say: Say;
}
type Words = "device" | "place" | "lock" | "try_out" | "sister" | "feeds" | "tell";

/** What is known of one besides its device, in the order in which a hand needs it. */
const known = (line: Line) =>
  [
    line.place && `at ${line.place}`,
    line.lock && `lock: ${line.lock}`,
    line.try_out && `verify: ${line.try_out}`,
    line.feeds && `also feeds ${line.feeds}`,
    line.tell && `inform ${line.tell}`,
  ]
    .filter(Boolean)
    .join("; ");

/** One line of the list as it is on file. */
export function SourceSaid({ kind, line }: { kind: Kind; line: Line | null }) {
  const words = useSafetyWords().data;
  if (line === null) return <span className="v-act">not answered</span>;
  if (line.absent) return <span className="mute">none here</span>;
  return (
    <>
      <span>
        {line.device},{" "}
        {words?.means.find((m) => m.id === line.means)?.title ?? "isolation method not entered"}
        {line.hazard && ["wet", "heat"].includes(kind.family) ? `; ${words?.hazard}` : ""}
      </span>
      <span className="mute">{known(line)}</span>
    </>
  );
}

export function SourceRow({ kind, line, usual, set, say }: Props) {
  const words = useSafetyWords().data;
  const title = (id: string | undefined) => words?.means.find((m) => m.id === id)?.title ?? "";
  const put = (more: Partial<Line>) => (line ? say.change(line.id, more) : say.add(kind.id, more));
  if (line?.absent)
    return (
      <span className="mute">
        none here{" "}
        <button
          className="linklike"
          aria-label={`${kind.title}: undo none here`}
          onClick={() => say.drop(line.id)}
        >
          Undo
        </button>
      </span>
    );
  const field = (name: Words, label: string, placeholder: string, most: number) => (
    <input
      aria-label={label}
      placeholder={placeholder}
      value={line?.[name] ?? ""}
      maxLength={most}
      onChange={(e) => put({ [name]: e.target.value })}
      onKeyDown={(e) => {
        if (e.key !== "Enter") return;
        e.preventDefault();
        say.next();
      }}
    />
  );
  return (
    <div className={css.linefields}>
      {field(
        "device",
        `${kind.title}, device`,
        usual ? `${title(usual.means)}: which one` : "which device",
        80,
      )}
      <select
        aria-label={`${kind.title}, isolated by`}
        value={line ? (line.means ?? "") : (usual?.means ?? "")}
        onChange={(e) => put({ means: e.target.value })}
      >
        <option value="">isolated by …</option>
        {kind.means.map((m) => (
          <option key={m} value={m}>
            {title(m)}
          </option>
        ))}
      </select>
      {!line && (
        <button
          className="btn-line"
          aria-label={`${kind.title}: none here`}
          onClick={() => {
            put({ absent: true });
            say.next();
          }}
        >
          None here
        </button>
      )}
      {line && ["wet", "heat"].includes(kind.family) && (
        <label className="confirm">
          <input
            type="checkbox"
            checked={line.hazard ?? false}
            onChange={(e) => put({ hazard: e.target.checked })}
          />{" "}
          {words?.hazard}
        </label>
      )}
      {line && (
        <details>
          <summary aria-label={`${kind.title}: details`}>
            {known(line) || "Location, lock, how to verify, also feeds"}
          </summary>
          <span className={css.linefields}>
            {field("place", `${kind.title}, place`, "location", 80)}
            {field("lock", `${kind.title}, lock`, "lock", 80)}
            {field("try_out", `${kind.title}, how to verify`, "how to verify", 120)}
            {kind.id === "sister_header" &&
              field("sister", "Paired set", set.partners[0]?.tag ?? "paired set", 30)}
            {field("feeds", `${kind.title}, also feeds`, "also feeds (burner, controls)", 120)}
            {field("tell", `${kind.title}, inform first`, "inform first", 120)}
            <button
              className="linklike"
              aria-label={`${kind.title}: remove this line`}
              onClick={() => say.drop(line.id)}
            >
              Remove
            </button>
          </span>
        </details>
      )}
    </div>
  );
}
