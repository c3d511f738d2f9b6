/** The readings that stand, each by its second; any can be taken back. */
import { useTools } from "../../safety";
import { watch, type rowsOf } from "./logic";
import css from "./drawing.module.scss";

export function Readings({
  rows,
  onBack,
}: {
  rows: ReturnType<typeof rowsOf>;
  onBack: (uuid: string) => void;
}) {
  const { answer, may, symbols } = useTools();
  if (rows.length === 0) return null;
  return (
    <ul className={css.readings} aria-label="Readings">
      {rows.map((r) => (
        <li key={r.uuid} className={answer?.problems.some((p) => p.field === r.uuid) ? "refused" : ""}>
          <span className="mute">
            {r.leg === "all" ? "" : `${r.leg} `}
            {watch(r.second)}
          </span>{" "}
          <span className="mono">
            {r.ohms.text} {symbols[r.ohms.unit ?? ""] ?? ""}
          </span>
          {may && (
            <button
              className="linklike"
              aria-label={`Remove ${r.ohms.text} at ${watch(r.second)}`}
              onClick={() => onBack(r.uuid)}
            >
              Remove
            </button>
          )}
        </li>
      ))}
    </ul>
  );
}
