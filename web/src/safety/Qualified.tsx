/** Who may be offered live tests: each person a lane of the board, as long as the certificate runs. */
import { useState } from "react";
import {
  Act,
  Complaint,
  Ready,
  SENDING,
  address,
  day,
  useGet,
  useMe,
  useSession,
  useSmallForm,
  VerdictShape,
  type Schemas,
} from "../base";
import { Board, Day, Lane, stretch, type Stretch } from "../instruments";
import { chosenSite, useSites } from "../plant";
import css from "./qualified.module.scss";

type Page = Schemas["QualificationsOut"];
type Person = Schemas["QualifiedOut"];
type Held = Schemas["QualificationOut"];

export function Qualified() {
  const site = chosenSite(useSites().data);
  const page = useGet("/api/v1/sites/{site_id}/qualifications", site ? { site_id: site.id } : null);
  return (
    <section aria-labelledby="qualified-title">
      <h2 id="qualified-title" className={css.title}>
        Qualifications
      </h2>
      <p className="mute">
        Live tests are offered to whoever has a qualification in date. What was seen can always be recorded,
        by anybody.
      </p>
      {site && (
        <Ready query={page} what="Loading qualifications">
          {(p) => <People page={p} site={site.id} />}
        </Ready>
      )}
    </section>
  );
}
function People({ page, site }: { page: Page; site: number }) {
  const { now } = useSession();
  const [today] = useState(now);
  const [time] = useState(() => stretch(today));
  return (
    <>
      <Board stretch={time} today={today} label="People and their qualifications">
        {page.people.map((p) => (
          <One key={p.username} person={p} time={time} today={today} may={page.may} />
        ))}
      </Board>
      {page.may && <Enter page={page} site={site} />}
    </>
  );
}
function One({ person, time, today, may }: { person: Person; time: Stretch; today: Date; may: boolean }) {
  const first = person.held.find((h) => h.ended === null);
  return (
    <Lane
      stretch={time}
      today={today}
      name={person.username}
      verdict={first?.verdict ?? "unknown"}
      since={first?.since ?? null}
      last={first?.until ?? null}
      head={
        <span>
          <strong>{person.full_name}</strong> <span className="mute">{person.role}</span>
          <span className={css.fine}>
            {person.live ? "live tests are offered" : "live tests are not offered"}
          </span>
        </span>
      }
      says={
        first ? (
          person.held
            .filter((h) => h.ended === null)
            .map((h) => <Certificate key={h.id} held={h} may={may} />)
        ) : (
          <span className="v-unknown">
            <VerdictShape verdict="unknown" /> none on record
          </span>
        )
      }
    />
  );
}
function Certificate({ held, may }: { held: Held; may: boolean }) {
  const me = useMe();
  const [open, setOpen] = useState(false);
  const form = useSmallForm(`withdraw:${held.id}`, { because: "" });
  const path = address("/api/v1/qualifications/{qualification_id}/withdraw", { qualification_id: held.id });
  return (
    <div>
      <span className={`v-${held.verdict}`}>
        <VerdictShape verdict={held.verdict} /> {held.title}. {held.says}
      </span>
      <span className={css.fine}>
        through {day(`${held.until}T12:00:00Z`, "UTC", me.locale)}
        {held.number && `, no. ${held.number}`}
      </span>
      {may && (
        <button className="linklike" aria-expanded={open} onClick={() => setOpen(!open)}>
          Withdraw
        </button>
      )}
      {open && (
        <div className={css.form}>
          <div className="field">
            <label htmlFor={`w-${held.id}`}>Reason</label>
            <input
              id={`w-${held.id}`}
              maxLength={200}
              value={form.v.because}
              onChange={(e) => form.set({ because: e.target.value })}
            />
          </div>
          <Act
            className="btn-ink"
            waits={(form.busy && SENDING) || (!form.v.because.trim() && "Enter the reason first.")}
            onClick={() => void form.send("POST", path, form.v, `${held.title}, withdrawn`)}
          >
            Withdraw
          </Act>
          <Complaint error={form.error} />
        </div>
      )}
    </div>
  );
}
function Enter({ page, site }: { page: Page; site: number }) {
  const form = useSmallForm(`qualify:${site}`, {
    username: page.people[0]?.username ?? "",
    kind: page.kinds[0]?.id ?? "",
    since: "",
    until: "",
    number: "",
  });
  const { v, set } = form;
  return (
    <details className={css.enter}>
      <summary>Enter a qualification</summary>
      <div className={css.form}>
        <div className="field">
          <label htmlFor="q-who">Person</label>
          <select id="q-who" value={v.username} onChange={(e) => set({ username: e.target.value })}>
            {page.people.map((p) => (
              <option key={p.username} value={p.username}>
                {p.full_name}
              </option>
            ))}
          </select>
        </div>
        <div className="field">
          <label htmlFor="q-kind">Qualified for</label>
          <select id="q-kind" value={v.kind} onChange={(e) => set({ kind: e.target.value })}>
            {page.kinds.map((k) => (
              <option key={k.id} value={k.id}>
                {k.title}
              </option>
            ))}
          </select>
        </div>
        <Day id="q-since" label="Issued on" value={v.since} onChange={(since) => set({ since })} />
        <Day id="q-until" label="Valid through" value={v.until} onChange={(until) => set({ until })} />
        <div className="field">
          <label htmlFor="q-number">Certificate no.</label>
          <input
            id="q-number"
            maxLength={60}
            value={v.number}
            onChange={(e) => set({ number: e.target.value })}
          />
        </div>
        <Act
          className="btn-ink"
          waits={
            (form.busy && SENDING) ||
            ((!v.since || !v.until) && "Enter the day of issue and the last day it is valid.")
          }
          onClick={() =>
            void form.send(
              "POST",
              address("/api/v1/sites/{site_id}/qualifications", { site_id: site }),
              v,
              `qualification of ${v.username}`,
            )
          }
        >
          Save qualification
        </Act>
        <Complaint error={form.error} />
      </div>
    </details>
  );
}
