/** A lead sets one gate aside, with a reason and an end. Gates that a life hangs on are not on this list. */
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
} from "../base";
import { useSites, type SetOut } from "../plant";
import { useSafetyWords } from "./queries";

export function WaiverForm({ set }: { set: SetOut }) {
  const [open, setOpen] = useState(false);
  const gates = useSafetyWords().data?.gates ?? [];
  const zone = useSites().data?.find((s) => s.id === set.site_id)?.time_zone ?? "UTC";
  const { now } = useSession();
  const f = useSmallForm(`aside:${set.id}`, {
    gate: "",
    reason: "",
    until: localField(new Date(now().getTime() + 86_400_000), zone),
  });
  if (!open)
    return (
      <button className="linklike" onClick={() => setOpen(true)}>
        Waive a hold point
      </button>
    );
  const save = async () => {
    if (
      await f.send(
        "POST",
        address("/api/v1/sets/{set_id}/waivers", { set_id: set.id }),
        instant(f.v.until, zone).then((until) => ({ ...f.v, until })),
        `${set.tag}, hold point waived`,
      )
    )
      setOpen(false);
  };
  return (
    <span className={`rulebox ${small.block}`} role="group" aria-label="Waive a hold point">
      <span className="field">
        <label htmlFor="aside-gate">Hold point</label>
        <select id="aside-gate" value={f.v.gate} onChange={(e) => f.set({ gate: e.target.value })}>
          <option value="">choose</option>
          {gates.map((g) => (
            <option key={g.id} value={g.id}>
              {g.title}
            </option>
          ))}
        </select>
      </span>
      <span className="field">
        <label htmlFor="aside-why">Reason (kept on record)</label>
        <input
          id="aside-why"
          maxLength={300}
          value={f.v.reason}
          onChange={(e) => f.set({ reason: e.target.value })}
        />
      </span>
      <span className="field">
        <label htmlFor="aside-until">Until ({zone})</label>
        <input
          id="aside-until"
          type="datetime-local"
          value={f.v.until}
          onChange={(e) => f.set({ until: e.target.value })}
        />
      </span>
      <Complaint error={f.error} />
      <span className={`rowflex ${small.under}`}>
        <Act
          waits={(f.busy && SENDING) || (!f.v.gate && "Choose the hold point first.")}
          onClick={() => void save()}
        >
          Waive hold point
        </Act>
        <button className="linklike" onClick={() => setOpen(false)}>
          Cancel
        </button>
      </span>
    </span>
  );
}
