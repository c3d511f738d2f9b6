/** A repair put off: until when, within which limits, and what ends it early. */
import { useState } from "react";
import {
  Act,
  SENDING,
  FigureInput,
  address,
  Complaint,
  instant,
  localField,
  small,
  useSession,
  useSmallForm,
  useSymbols,
} from "../base";
import { useKinds, useSites, type SetOut } from "../plant";
import { useSafetyWords } from "./queries";

interface Bound {
  measurand: string;
  leg: "" | "1" | "2" | "3";
  floor: boolean;
  text: string;
  unit: string;
  does: string;
}
const BOUND: Bound = { measurand: "current", leg: "1", floor: false, text: "", unit: "A", does: "stop it" };
export function DeferralForm({ set }: { set: SetOut }) {
  const [open, setOpen] = useState(false);
  const words = useSafetyWords();
  const symbols = useSymbols();
  const parts = useKinds().data?.parts ?? [];
  const zone = useSites().data?.find((s) => s.id === set.site_id)?.time_zone ?? "UTC";
  const { now } = useSession();
  const week = new Date(now().getTime() + 7 * 86_400_000);
  const f = useSmallForm(`put-off:${set.id}`, {
    uuid: crypto.randomUUID() as string,
    part: "motor",
    what: "",
    reason: "",
    until: localField(week, zone),
    standby: "",
    changes_mind: "",
    limits: [BOUND],
  });
  if (!open)
    return (
      <button className="linklike" onClick={() => setOpen(true)}>
        Defer a repair
      </button>
    );
  const v = f.v;
  const bound = (i: number, next: Partial<Bound>) =>
    f.set({ limits: v.limits.map((x, k) => (k === i ? { ...x, ...next } : x)) });
  const save = async () => {
    const { uuid, limits, until, ...rest } = v;
    const body = {
      ...rest,
      limits: limits
        .filter((x) => x.text.trim())
        .map((x) => ({
          measurand: x.measurand,
          leg: x.measurand === "current" ? x.leg : ("" as const),
          floor: x.floor,
          value: { text: x.text, unit: x.unit },
          does: x.does,
        })),
    };
    if (
      await f.send(
        "POST",
        address("/api/v1/sets/{set_id}/deferrals/{uuid}", { set_id: set.id, uuid }),
        instant(until, zone).then((at) => ({ ...body, until: at })),
        `${set.tag}, repair deferred`,
        uuid,
      )
    ) {
      f.set({ uuid: crypto.randomUUID() });
      setOpen(false);
    }
  };
  const line = (id: string, label: string, key: "what" | "reason" | "standby" | "changes_mind") => (
    <span className="field">
      <label htmlFor={`po-${id}`}>{label}</label>
      <input
        id={`po-${id}`}
        maxLength={300}
        value={v[key]}
        onChange={(e) => f.set({ [key]: e.target.value })}
      />
    </span>
  );
  return (
    <span className={`rulebox ${small.block}`} role="group" aria-label="Defer a repair">
      {line("what", "Repair to defer", "what")}
      {line("why", "Why", "reason")}
      <span className={`statesentence ${small.block}`}>
        On the{" "}
        <select
          className="inline-select"
          aria-label="Part"
          value={v.part}
          onChange={(e) => f.set({ part: e.target.value })}
        >
          {parts
            .filter((p) => set.slots.includes(p.id))
            .map((p) => (
              <option key={p.id} value={p.id}>
                {p.title.toLowerCase()}
              </option>
            ))}
        </select>
        , until{" "}
        <input
          className="inline-select"
          type="datetime-local"
          aria-label={`Until (${zone})`}
          value={v.until}
          onChange={(e) => f.set({ until: e.target.value })}
        />
        .
      </span>
      {v.limits.map((x, i) => {
        const figure = words.data?.figures.find((w) => w.id === x.measurand);
        return (
          <span key={i} className={`statesentence ${small.block}`}>
            If{" "}
            <select
              className="inline-select"
              aria-label="Figure"
              value={x.measurand}
              onChange={(e) =>
                bound(i, {
                  measurand: e.target.value,
                  unit: words.data?.figures.find((w) => w.id === e.target.value)?.units[0] ?? "",
                })
              }
            >
              {(words.data?.figures ?? []).map((w) => (
                <option key={w.id} value={w.id}>
                  {w.title.toLowerCase()}
                </option>
              ))}
            </select>
            {figure?.legs && (
              <select
                className="inline-select"
                aria-label="Leg"
                value={x.leg}
                onChange={(e) => bound(i, { leg: e.target.value as Bound["leg"] })}
              >
                <option value="1">leg 1</option>
                <option value="2">leg 2</option>
                <option value="3">leg 3</option>
                <option value="">any leg</option>
              </select>
            )}{" "}
            <select
              className="inline-select"
              aria-label="Side"
              value={x.floor ? "below" : "over"}
              onChange={(e) => bound(i, { floor: e.target.value === "below" })}
            >
              <option value="over">exceeds</option>
              <option value="below">falls below</option>
            </select>{" "}
            <FigureInput
              id={`limit-${i}`}
              label="Limit"
              className={`inline-input mono ${small.w5}`}
              value={x}
              unit={x.unit}
              units={figure?.units ?? [x.unit]}
              symbols={symbols}
              unitClass="inline-select"
              digits
              onChange={(typed) => bound(i, { text: typed?.text ?? "" })}
              onUnit={(unit) => bound(i, { unit })}
            />
            :{" "}
            <input
              className="inline-select"
              aria-label="Action then"
              value={x.does}
              onChange={(e) => bound(i, { does: e.target.value })}
            />
          </span>
        );
      })}
      <button className="linklike" onClick={() => f.set({ limits: [...v.limits, BOUND] })}>
        Add limit
      </button>
      {line("standby", "Condition of the standby", "standby")}
      {line("mind", "What would end the deferral early", "changes_mind")}
      <Complaint error={f.error} />
      <span className={`rowflex ${small.under}`}>
        <Act waits={f.busy && SENDING} onClick={() => void save()}>
          Defer repair
        </Act>
        <button className="linklike" onClick={() => setOpen(false)}>
          Cancel
        </button>
      </span>
    </span>
  );
}
