/** The lock of somebody who is not there: only by the site’s procedure, with the steps taken. */
import { small, useSmallForm } from "../../base";
import { type SafeBody } from "../queries";

export function AbsentLock({
  what,
  owner,
  lock,
  setId,
  add,
  done,
}: {
  what: string;
  owner: string;
  lock: string;
  setId: number;
  add: (b: SafeBody) => Promise<boolean>;
  done: () => void;
}) {
  const f = useSmallForm(`forgotten:${setId}:${lock}`, { followed: "" });
  const say = async () => {
    if (await add({ kind: "unlock", lock, forgotten: true, followed: f.v.followed })) {
      f.drop();
      done();
    }
  };
  return (
    <div className="rulebox" role="group" aria-label="Remove absent worker’s lock">
      <p>
        <strong>
          {owner}’s lock on {what.toLowerCase()}.
        </strong>{" "}
        Only by the site’s lock-removal procedure: confirm {owner} is not on site, try to reach them, inform
        them before they return to work.
      </p>
      <div className="field">
        <label htmlFor="followed">Steps taken</label>
        <textarea
          id="followed"
          rows={2}
          maxLength={500}
          value={f.v.followed}
          onChange={(e) => f.set({ followed: e.target.value })}
        />
      </div>
      <p className={`rowflex ${small.below}`}>
        <button className="btn-line" onClick={() => void say()}>
          Remove lock
        </button>
        <button className="linklike" onClick={done}>
          Leave lock on
        </button>
      </p>
    </div>
  );
}
