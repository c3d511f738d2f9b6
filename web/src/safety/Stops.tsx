/** What forbids a start, and what ends each of it; a lead releases one watched trial run once the repair is on record. */
import { useState } from "react";
import { Link } from "react-router";
import { Act, SENDING, address, Complaint, dayTime, useMe, useSmallForm, VerdictShape } from "../base";
import { useSites, type SetOut } from "../plant";
import { useSetSafety, type SetSafety } from "./queries";
import css from "./safety.module.scss";

export function Stops({ set, safety, lead }: { set: SetOut; safety: SetSafety; lead: boolean }) {
  const stops = safety.stops ?? [];
  const trials = safety.trials ?? [];
  if (!stops.length) return null;
  const ready = stops.every((s) => s.trial && !s.waits);
  return (
    <section className="ruled" aria-labelledby="stops-title" data-testid="stops">
      <h2 id="stops-title">Not to be started</h2>
      {stops.map((s) => (
        <div key={s.question + s.says} className={css.hung} data-stop={s.question}>
          <p>
            <span className="v-stop">
              <VerdictShape verdict="stop" /> {s.title}.
            </span>{" "}
            {s.says}
          </p>
          <p>
            <strong>What ends it:</strong> {s.ends} <span className="mute">{waiting(s)}</span>
          </p>
        </div>
      ))}
      {trials.map((t) => (
        <Released key={t.uuid} trial={t} zoneOf={set.site_id} />
      ))}
      {lead && ready && trials.length === 0 && <Release set={set} />}
    </section>
  );
}
/**
 * On a bench that reads a running set: the stop that forbids its start, or the one watched run that was
 * released into it.
 */
export function NotToBeStarted({ set }: { set: SetOut }) {
  const safety = useSetSafety(set.id).data;
  const stops = safety?.stops ?? [];
  if (!safety || !stops.length) return null;
  if (safety.offers.find((o) => o.act === "run")?.offered)
    return (
      <>
        {safety.trials?.map((t) => (
          <Released key={t.uuid} trial={t} zoneOf={set.site_id} />
        ))}
      </>
    );
  return (
    <div className={css.cautions} role="note" aria-label="Not to be started" data-testid="not-started">
      {stops.map((s) => (
        <p key={s.question + s.says}>
          Not to be started: {s.says} <Link to={`/sets/${set.id}`}>What ends it</Link>
        </p>
      ))}
    </div>
  );
}
function waiting(s: NonNullable<SetSafety["stops"]>[number]): string {
  if (!s.trial) return "No trial run is released for it.";
  return s.waits ? `A watched trial run waits for ${s.waits}.` : "A lead may release one watched trial run.";
}
function Released({ trial, zoneOf }: { trial: NonNullable<SetSafety["trials"]>[number]; zoneOf: number }) {
  const me = useMe();
  const zone = useSites().data?.find((s) => s.id === zoneOf)?.time_zone ?? "UTC";
  return (
    <p className="notice" data-testid="trial">
      <strong>One watched trial run released by {trial.by}</strong>: {trial.minutes} min, begun before{" "}
      {dayTime(trial.until, zone, me.locale)}. Stop at once: {trial.limits} Somebody stands at the stop button
      from the first minute to the last; the record that is read then ends the release.
    </p>
  );
}
function Release({ set }: { set: SetOut }) {
  const [open, setOpen] = useState(false);
  const f = useSmallForm(`trial:${set.id}`, {
    uuid: crypto.randomUUID() as string,
    limits: "",
    minutes: "10",
  });
  if (!open)
    return (
      <p className="noprint">
        <button className="linklike" onClick={() => setOpen(true)}>
          release a trial run
        </button>
      </p>
    );
  const save = async () => {
    const body = { limits: f.v.limits, minutes: /^\d{1,4}$/.test(f.v.minutes) ? Number(f.v.minutes) : 0 };
    if (
      await f.send(
        "POST",
        address("/api/v1/sets/{set_id}/trials/{uuid}", { set_id: set.id, uuid: f.v.uuid }),
        body,
        `${set.tag}, trial run`,
        f.v.uuid,
      )
    ) {
      f.set({ uuid: crypto.randomUUID() });
      setOpen(false);
    }
  };
  return (
    <div className="rulebox" role="group" aria-label="Release a trial run">
      <div className="field">
        <label htmlFor="trial-limits">Limits at which it is stopped at once</label>
        <input
          id="trial-limits"
          maxLength={300}
          value={f.v.limits}
          onChange={(e) => f.set({ limits: e.target.value })}
        />
      </div>
      <div className="field">
        <label htmlFor="trial-minutes">Minutes, watched throughout</label>
        <input
          id="trial-minutes"
          className="mono short"
          inputMode="numeric"
          value={f.v.minutes}
          onChange={(e) => f.set({ minutes: e.target.value })}
        />
      </div>
      <Complaint error={f.error} />
      <p className={`rowflex ${css.spaced}`}>
        <Act waits={f.busy && SENDING} onClick={() => void save()}>
          Release trial run
        </Act>
        <button className="linklike" onClick={() => setOpen(false)}>
          Cancel
        </button>
      </p>
    </div>
  );
}
