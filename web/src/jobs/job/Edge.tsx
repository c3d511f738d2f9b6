/** At the edge: what has to be as it was, and every temporary change that stands. The job cannot close while one does. */
import { Act, dayTime, useMe } from "../../base";
import type { Body, Job, View } from "./useJob";
import css from "./job.module.scss";

const CHANGES: [string, string][] = [
  ["lifted_wire", "lifted wire"],
  ["jumper", "jumper"],
  ["bypass", "bypass"],
  ["guard_off", "guard off"],
  ["valve_shut", "valve shut"],
  ["vent_open", "vent open"],
  ["bolts_loose", "bolts finger-tight"],
];
export function Edge({ job, view }: { job: Job; view: View }) {
  const me = useMe();
  const zone = Intl.DateTimeFormat().resolvedOptions().timeZone;
  const back = [...view.leads, ...view.reconnect];
  const open = back.filter((b) => !b.back);
  return (
    <aside className={css.edge} aria-label="Put back">
      <h3>
        Reconnect <span className="mono">{open.length}</span>
      </h3>
      <ul className={css.back}>
        {back.map((b, i) => (
          <li key={`${b.what}${String(i)}`} data-back={b.back} data-what={b.what}>
            <svg viewBox="0 0 30 10" aria-hidden="true">
              <path d={b.back ? "M0 5H30" : "M0 5H10M20 5H30M10 5a5 4 0 1 0 10 0a5 4 0 1 0 -10 0"} />
            </svg>
            <span>
              <strong>{b.what}</strong> {b.how}
              {b.by && <span className="mute">, {b.by}</span>}
            </span>
          </li>
        ))}
        {back.length === 0 && <li className="mute">Nothing taken off yet: the list writes itself.</li>}
      </ul>
      <h3>
        Temporary changes <span className="mono">{view.changes.length}</span>
      </h3>
      <ul className={css.back}>
        {view.changes.map((c) => (
          <li key={c.key} data-change={c.key}>
            <svg viewBox="0 0 30 24" aria-hidden="true">
              <path d="M15 0V5M9 9L15 4L21 9V22H9Z" />
            </svg>
            <span>
              <strong>{c.title}</strong>, {c.place}
              <span className="mute">
                {" "}
                since {dayTime(c.since, zone, me.locale)}, {c.by}
              </span>
              {job.tools.writes && c.key.startsWith("hand/") && (
                <button
                  type="button"
                  className="linklike"
                  onClick={() =>
                    job.say({ kind: "change", change: codeOf(c.title), place: c.place, on: false } as Body)
                  }
                >
                  Restored
                </button>
              )}
            </span>
          </li>
        ))}
      </ul>
      {view.changes.length > 0 && <p className="mute">The job cannot close while one is on.</p>}
      {view.others.length > 0 && <p className="mute">Of other work: {view.others.join("; ")}.</p>}
      {job.tools.writes && <NewChange job={job} />}
      <FoundRow job={job} />
    </aside>
  );
}
const codeOf = (title: string): string =>
  CHANGES.find(([, words]) => words === title.toLowerCase())?.[0] ?? title.toLowerCase().replace(/ /g, "_");

function NewChange({ job }: { job: Job }) {
  const change = String(job.typed["change:kind"] ?? "");
  const place = String(job.typed["change:place"] ?? "");
  const add = () => {
    job.say({ kind: "change", change, place: place.trim(), on: true } as Body);
    job.forget("change:kind", "change:place");
  };
  return (
    <details>
      <summary>Add a temporary change</summary>
      <div className="field">
        <label htmlFor="change-kind">What</label>
        <select id="change-kind" value={change} onChange={(e) => job.put("change:kind", e.target.value)}>
          <option value="">choose</option>
          {CHANGES.map(([v, w]) => (
            <option key={v} value={v}>
              {w}
            </option>
          ))}
        </select>
      </div>
      <div className="field">
        <label htmlFor="change-place">Where</label>
        <input
          id="change-place"
          maxLength={120}
          value={place}
          onChange={(e) => job.put("change:place", e.target.value)}
        />
      </div>
      <Act waits={(!change && "Choose what.") || (!place.trim() && "Enter where.")} onClick={add}>
        Add
      </Act>
    </details>
  );
}
/** As found, before as left: marks, sides, switch positions. */
function FoundRow({ job }: { job: Job }) {
  const what = String(job.typed["found:what"] ?? "");
  const how = String(job.typed["found:how"] ?? "");
  if (!job.tools.writes) return null;
  const add = (kind: "found" | "left") => {
    job.say({ kind, step: job.view?.now ?? "", what: what.trim(), how: how.trim() } as Body);
    job.forget("found:what", "found:how");
  };
  return (
    <details>
      <summary>As found, as left</summary>
      <div className="field">
        <label htmlFor="found-what">What</label>
        <input
          id="found-what"
          maxLength={80}
          value={what}
          onChange={(e) => job.put("found:what", e.target.value)}
        />
      </div>
      <div className="field">
        <label htmlFor="found-how">How it is</label>
        <input
          id="found-how"
          maxLength={200}
          value={how}
          onChange={(e) => job.put("found:how", e.target.value)}
        />
      </div>
      <Act
        waits={(!what.trim() && "Enter what.") || (!how.trim() && "Enter how it is.")}
        onClick={() => add("found")}
      >
        As found
      </Act>{" "}
      <Act waits={!what.trim() && "Enter what."} saidBy="found-what" onClick={() => add("left")}>
        As left
      </Act>
    </details>
  );
}
