/** Shift change: the next one's own lock goes on before the last one's comes off. */
import { useState } from "react";
import { Act, useMe } from "../../base";
import { type SafeBody, type SetSafety } from "../queries";

export function HandOn({
  setId,
  add,
  iso,
}: {
  setId: number;
  add: (b: SafeBody) => Promise<boolean>;
  iso: SetSafety["isolation"];
}) {
  const me = useMe();
  const [open, setOpen] = useState(false);
  const [to, setTo] = useState("");
  const mine = iso.sources.flatMap((s) => s.locks.filter((k) => k.mine).map((k) => k.id));
  const others = iso.workers.filter((w) => !w.mine);
  if (!open)
    return (
      <p>
        <button className="linklike" onClick={() => setOpen(true)}>
          Hand over to next shift
        </button>
        {iso.handovers.map((h) => (
          <span key={h.at} className="mute">
            {" "}
            · handed over by {h.by} to {h.words}
          </span>
        ))}
      </p>
    );
  return (
    <div className="rulebox" role="group" aria-label="Hand over" data-set={setId}>
      <p>
        {others.length
          ? `Also locked on, besides ${me.full_name}: ${others.map((w) => w.name).join(", ")}.`
          : "First the incoming worker puts their own lock on every source, signed in as themselves. Then yours comes off."}
      </p>
      <div className="noteline">
        <div className="field">
          <label htmlFor="handto">Handed over to</label>
          <input id="handto" value={to} onChange={(e) => setTo(e.target.value)} />
        </div>
        <Act
          waits={!to.trim() && "Enter who takes over first."}
          onClick={() => void add({ kind: "handover", to: to.trim() })}
        >
          Hand over
        </Act>
      </div>
      {others.length > 0 && mine.length > 0 && (
        <button
          className="linklike"
          onClick={() => mine.forEach((lock) => void add({ kind: "unlock", lock }))}
        >
          Confirm my locks off
        </button>
      )}{" "}
      <button className="linklike" onClick={() => setOpen(false)}>
        Cancel
      </button>
    </div>
  );
}
