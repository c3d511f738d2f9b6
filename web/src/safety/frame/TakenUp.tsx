/** What was typed at an earlier visit stands there still. */
import s from "./frame.module.scss";

export function TakenUp({ kept, afresh }: { kept: boolean; afresh: () => void }) {
  if (!kept) return null;
  return (
    <p className={`notice ${s.slim}`}>
      Draft restored.{" "}
      <button className="linklike" onClick={afresh}>
        Discard draft
      </button>
    </p>
  );
}
