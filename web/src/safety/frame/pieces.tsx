/** What stands on every bench, placed by its drawing: verdicts, what is missing, words, photo, save. */
import type { ReactNode } from "react";
import { Act, Complaint, SENDING } from "../../base";
import { AddPicture, Judged } from "../../logbook";
import { useTools, type Line } from "./tools";
import css from "./frame.module.scss";

/** What is wrong with the figures, what they say, the bench's own in between, and what is missing still. */
export function Verdicts({ children, waits = true }: { children?: ReactNode; waits?: boolean }) {
  const { answer, told } = useTools();
  return (
    <>
      <Problems />
      {answer && <Judged answer={answer} before={told.before} />}
      {children}
      {answer && waits && answer.missing.length > 0 && (
        <ul className="notes mute" aria-label="Still missing">
          {answer.missing.map((m) => (
            <li key={m.field + m.message}>{m.message}</li>
          ))}
        </ul>
      )}
      {told.error && (
        <p className="mute">
          No verdict yet: {told.error.message}{" "}
          {!told.error.again && (
            <button className="linklike" onClick={told.ask}>
              Try again
            </button>
          )}
        </p>
      )}
    </>
  );
}
function Problems() {
  const { answer } = useTools();
  if (!answer?.problems.length) return null;
  return (
    <div className="notice bad" role="alert" data-testid="problems">
      {answer.problems.map((p) => (
        <div key={p.field + p.code}>{p.message}</div>
      ))}
    </div>
  );
}
/** Figures that the core worked out of those that were read, by their names in its answer. */
export function Derived({ rows, children }: { rows: [string, string][]; children?: ReactNode }) {
  const { answer } = useTools();
  const there = rows.filter(([k]) => answer?.values[k]);
  if (there.length < 2) return null;
  return (
    <div className={css.derived} aria-label="Calculated values">
      {there.map(([k, label]) => (
        <div key={k}>
          <span className="lab">{label}</span>
          <span className="mono" data-value={k}>
            {answer?.values[k]?.shown}
          </span>
        </div>
      ))}
      {children}
    </div>
  );
}
function Words({
  id,
  line,
  label,
  most,
  children,
}: {
  id: string;
  line: Line;
  label: string;
  most: number;
  children?: ReactNode;
}) {
  const { hold, may } = useTools();
  return (
    <div className="field">
      <label htmlFor={id}>{label}</label>
      <input
        id={id}
        maxLength={most}
        readOnly={!may}
        value={line.value}
        onFocus={() => hold(null)}
        onChange={(e) => line.set(e.target.value)}
      />
      {children}
    </div>
  );
}
/** Why a record is corrected; or, where `otherwise` asks for it, why a sheet is left. */
export function Reason({ otherwise = "" }: { otherwise?: string }) {
  const { given, reason } = useTools();
  const label = given.mode === "correct" ? "Reason for correction" : otherwise;
  return label ? <Words id="why" line={reason} label={label} most={300} /> : null;
}
export function Note({ children }: { children?: ReactNode }) {
  const { note } = useTools();
  return note ? (
    <Words id="note" line={note} label="Note" most={500}>
      {children}
    </Words>
  ) : null;
}
export function Photo() {
  const { given, photo, writes } = useTools();
  const { mode, set } = given;
  return writes && mode === "new" && photo ? <AddPicture setId={set.id} tag={set.tag} entry={photo} /> : null;
}
export function PutOnRecord() {
  const { any, given, save, sending, writes } = useTools();
  if (!writes) return null;
  return (
    <Act
      className="btn-ink"
      waits={(!any && "Enter a reading first.") || (sending && SENDING)}
      onClick={() => void save()}
    >
      {given.mode === "correct" ? "Save correction" : "Save record"}
    </Act>
  );
}
/** How a sheet of one entry ends: why it is corrected, remarks and a photo, the save, what became of it. */
export function RecordEnd({ beside }: { beside?: ReactNode }) {
  return (
    <>
      <Reason />
      <Note>
        <Photo />
      </Note>
      <div className="savebar">
        {beside}
        <PutOnRecord />
      </div>
      <Sending />
    </>
  );
}
/** What became of putting it on record. */
export function Sending() {
  const { sending, refusal } = useTools();
  return (
    <>
      {sending && <p role="status">Stored on this device. Sending…</p>}
      <Complaint error={refusal} />
    </>
  );
}
