/** Something happened to this set: after it, it is another machine, and its series begin anew. */
import { useState } from "react";
import {
  Act,
  SENDING,
  address,
  Complaint,
  instant,
  localField,
  small,
  useSession,
  useSmallForm,
} from "../../base";
import { useKinds } from "../../plant";

export function Happened({ setId, tag, zone }: { setId: number; tag: string; zone: string }) {
  const [open, setOpen] = useState(false);
  return (
    <div className={`noprint ${small.apart}`}>
      <button className="linklike" aria-expanded={open} onClick={() => setOpen(!open)}>
        {open ? "Cancel" : "Add event (rewind, flood, overhaul …)"}
      </button>
      {open && <Form setId={setId} tag={tag} zone={zone} done={() => setOpen(false)} />}
    </div>
  );
}

function Form({ setId, tag, zone, done }: { setId: number; tag: string; zone: string; done: () => void }) {
  const { now } = useSession();
  const kinds = useKinds().data?.events ?? [];
  const {
    v,
    set: change,
    send,
    error,
    busy,
  } = useSmallForm(`event:${setId}`, { kind: "", at: "", note: "" });
  const save = async () => {
    // Untouched it is this very moment, whenever the form was begun; so it comes after what was read in this minute.
    const at = v.at === "" ? Promise.resolve(now().toISOString()) : instant(v.at, zone);
    if (
      await send(
        "POST",
        address("/api/v1/sets/{set_id}/events", { set_id: setId }),
        at.then((when) => ({ kind: v.kind, at: when, note: v.note })),
        `${tag}: event`,
      )
    )
      done();
  };
  return (
    <div className="rulebox">
      <div className="field">
        <label htmlFor="ev-kind">Event</label>
        <select id="ev-kind" value={v.kind} onChange={(e) => change({ kind: e.target.value })}>
          <option value="">choose</option>
          {kinds.map((k) => (
            <option key={k.id} value={k.id}>
              {k.title}
            </option>
          ))}
        </select>
      </div>
      <div className="field">
        <label htmlFor="ev-at">Date and time ({zone})</label>
        <input
          id="ev-at"
          type="datetime-local"
          value={v.at || localField(now(), zone)}
          onChange={(e) => change({ at: e.target.value })}
        />
      </div>
      <div className="field">
        <label htmlFor="ev-note">What happened</label>
        <input
          id="ev-note"
          maxLength={300}
          value={v.note}
          onChange={(e) => change({ note: e.target.value })}
        />
      </div>
      <p className={`mute ${small.close}`}>
        Readings from before this event are no longer compared with later ones.
      </p>
      <Complaint error={error} />
      <Act waits={busy && SENDING} onClick={() => void save()}>
        Add event
      </Act>
    </div>
  );
}
