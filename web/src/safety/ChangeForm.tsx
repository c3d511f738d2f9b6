/** A temporary change put on: which, where, why. */
import { useState } from "react";
import { Act, SENDING, address, Complaint, RadioGroup, small, useSession, useSmallForm } from "../base";
import { type SetOut } from "../plant";
import { PictureField } from "./components";
import { useSafetyWords } from "./queries";
import css from "./safety.module.scss";

export function ChangeForm({ set }: { set: SetOut }) {
  const [open, setOpen] = useState(false);
  const words = useSafetyWords();
  const { now } = useSession();
  const f = useSmallForm(`put-on:${set.id}`, {
    uuid: crypto.randomUUID() as string,
    kind: "",
    place: "",
    note: "",
    picture: "",
  });
  if (!open)
    return (
      <button className="linklike" onClick={() => setOpen(true)}>
        Add temporary change (lifted wire, jumper, hand mode …)
      </button>
    );
  const save = async () => {
    const uuid = f.v.uuid;
    if (
      await f.send(
        "POST",
        address("/api/v1/sets/{set_id}/changes", { set_id: set.id }),
        { ...f.v, at: now().toISOString() },
        `${set.tag}, temporary change`,
        uuid,
      )
    ) {
      f.set({ uuid: crypto.randomUUID() });
      setOpen(false);
    }
  };
  return (
    <span className={`rulebox ${small.block}`} role="group" aria-label="Temporary change">
      <RadioGroup
        className={css.scopes}
        label="Which change"
        options={(words.data?.changes ?? []).map((c) => c.id)}
        value={f.v.kind || null}
        onChoose={(kind) => f.set({ kind })}
        says={(id) => words.data?.changes.find((c) => c.id === id)?.title}
      />
      <span className="field">
        <label htmlFor="ch-place">Location, so the next shift can find it</label>
        <input
          id="ch-place"
          maxLength={120}
          value={f.v.place}
          onChange={(e) => f.set({ place: e.target.value })}
        />
      </span>
      <span className="field">
        <label htmlFor="ch-note">Why</label>
        <input
          id="ch-note"
          maxLength={300}
          value={f.v.note}
          onChange={(e) => f.set({ note: e.target.value })}
        />
      </span>
      <PictureField
        id="ch-picture"
        siteId={set.site_id}
        value={f.v.picture}
        onChange={(picture) => f.set({ picture })}
      />
      <Complaint error={f.error} />
      <span className={`rowflex ${small.under}`}>
        <Act
          waits={(f.busy && SENDING) || (!f.v.kind && "Choose what was changed first.")}
          onClick={() => void save()}
        >
          Add temporary change
        </Act>
        <button className="linklike" onClick={() => setOpen(false)}>
          Cancel
        </button>
      </span>
    </span>
  );
}
