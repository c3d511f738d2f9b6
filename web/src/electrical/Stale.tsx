/** Somebody was ahead with the same circuit: theirs or mine, then save. */
export function Stale({ onTheirs, onMine }: { onTheirs: () => void; onMine: () => void }) {
  return (
    <p className="notice">
      <button className="linklike" onClick={onTheirs}>
        Show theirs
      </button>{" "}
      or{" "}
      <button className="linklike" onClick={onMine}>
        keep mine
      </button>
      , then save.
    </p>
  );
}
