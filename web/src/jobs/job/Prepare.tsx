/**
 * Before leaving for the pump: what the set lacks, the pick list against the shelves, people and time, isolation,
 * what else is due.
 */
import { Act } from "../../base";
import { NamedFigure } from "../../safety";
import { isFigure, type Body, type Job, type View } from "./useJob";
import css from "./job.module.scss";

const YES_NO: Record<string, string> = {
  hot: "pumps anything over 50 °C",
  outside: "is outside",
  pit: "is in a pit or a well",
  roof: "is on a roof",
  header: "shares a header",
};
export function Prepare({ job, view, start }: { job: Job; view: View; start: () => void }) {
  return (
    <div className={css.prepare}>
      {view.refuses.map((r) => (
        <p key={r} className="notice bad" role="alert">
          {r}
        </p>
      ))}
      <Asks job={job} view={view} />
      {view.pick && <Pick job={job} view={view} pick={view.pick} />}
      {view.asks.length === 0 && view.refuses.length === 0 && (
        <button type="button" className="btn-ink" onClick={start}>
          {view.done ? "Go on with the steps" : "Begin with the first step"}
        </button>
      )}
      <Owner job={job} view={view} />
    </div>
  );
}
function Asks({ job, view }: { job: Job; view: View }) {
  if (view.asks.length === 0) return null;
  const marks = view.asks.filter((a) => a.field in YES_NO);
  const fields = new Set(view.asks.map((a) => a.field));
  const say = (more: object) => job.say({ kind: "about", ...more } as Body);
  const words = (n: string) => String(job.typed[`about:${n}`] ?? "");
  const service = {
    ...(words("service").trim() ? { service: words("service").trim() } : {}),
    ...Object.fromEntries(
      ["service_low", "service_high", "service_minutes"].flatMap((n) =>
        isFigure(job.typed[n]) ? [[n, job.typed[n]]] : [],
      ),
    ),
    ...(words("restarts").trim() ? { restarts: words("restarts").trim() } : {}),
  };
  return (
    <section className={css.asks} aria-label="Asked before the first step">
      <h2>Asked before the first step</h2>
      {marks.map((a) => (
        <p key={a.field} className={css.choices} data-ask={a.field}>
          This set {YES_NO[a.field]}:{" "}
          {(["yes", "no"] as const).map((v) => (
            <button key={v} type="button" className="btn-line" onClick={() => say({ [a.field]: v })}>
              {v}
            </button>
          ))}
        </p>
      ))}
      {fields.has("weight") && (
        <div className={css.choices} data-ask="weight">
          <NamedFigure name="weight" />
          <Act
            waits={!isFigure(job.typed.weight) && "Enter a weight."}
            onClick={() => {
              say({ weight: job.typed.weight });
              job.forget("weight");
            }}
          >
            Save weight
          </Act>
        </div>
      )}
      {fields.has("seal_kind") && (
        <div className={css.choices} data-ask="seal_kind">
          <div className="field">
            <label htmlFor="seal-kind">Seal kind or kit number</label>
            <input
              id="seal-kind"
              maxLength={80}
              value={words("seal_kind")}
              onChange={(e) => job.put("about:seal_kind", e.target.value)}
            />
          </div>
          <Act
            waits={!words("seal_kind").trim() && "Enter the seal kind."}
            onClick={() => {
              say({ seal_kind: words("seal_kind").trim() });
              job.forget("about:seal_kind");
            }}
          >
            Save seal kind
          </Act>
        </div>
      )}
      {fields.has("service") && (
        <div className={css.service} data-ask="service">
          <p>What the service is judged by once it runs again:</p>
          <div className={css.leadrow}>
            <div className="field">
              <label htmlFor="service">Variable, with its unit</label>
              <input
                id="service"
                maxLength={80}
                value={words("service")}
                onChange={(e) => job.put("about:service", e.target.value)}
              />
            </div>
            <NamedFigure name="service_low" label="at least" />
            <NamedFigure name="service_high" label="at most" />
            <NamedFigure name="service_minutes" label="for" />
            <div className="field">
              <label htmlFor="restarts">What restarts after it, in order</label>
              <input
                id="restarts"
                maxLength={300}
                value={words("restarts")}
                onChange={(e) => job.put("about:restarts", e.target.value)}
              />
            </div>
          </div>
          <Act
            waits={!words("service").trim() && "Enter the variable."}
            onClick={() => {
              say(service);
              job.forget("about:service", "service_low", "service_high", "service_minutes", "about:restarts");
            }}
          >
            Save service
          </Act>{" "}
          <button type="button" className="btn-line" onClick={() => say({ no_service: "yes" })}>
            It names nothing
          </button>
        </div>
      )}
      {view.asks
        .filter((a) => !(a.field in YES_NO) && !["weight", "seal_kind", "service"].includes(a.field))
        .map((a) => (
          <p key={a.field} className="notice" data-ask={a.field}>
            {a.says}
          </p>
        ))}
    </section>
  );
}
function Pick({ job, view, pick }: { job: Job; view: View; pick: NonNullable<View["pick"]> }) {
  const reserve = () => {
    for (const k of pick.kit) {
      let left = k.wanted - k.reserved - k.used;
      for (const lot of k.lots) {
        if (left <= 0 || lot.emergency || lot.free <= 0) continue;
        const n = Math.min(left, lot.free);
        job.say({ kind: "part", code: lot.code, place: lot.place, reserved: n } as Body);
        left -= n;
      }
    }
  };
  const wants = pick.kit.some(
    (k) => k.wanted > k.reserved + k.used && k.lots.some((l) => !l.emergency && l.free > 0),
  );
  return (
    <section className={css.pick} aria-label="Pick list">
      <h2>Take along</h2>
      <ul className={css.kit}>
        {pick.kit.map((k) => (
          <li key={k.kind} data-kit={k.kind} data-short={k.short || undefined}>
            <span className="mono">{k.wanted}</span>
            <span>
              <strong>{k.title}</strong>
              <span className="mute">
                {" "}
                {k.lots
                  .map((l) => `${l.free} in ${l.place}${l.emergency ? ", emergency only" : ""}`)
                  .join("; ") || "none in store"}
              </span>
              {k.reserved > 0 && <span> {k.reserved} reserved</span>}
              {k.short > 0 && <strong className="v-act"> {k.short} short</strong>}
            </span>
          </li>
        ))}
        {pick.kit.length === 0 && <li className="mute">No parts belong to this job.</li>}
      </ul>
      {job.tools.writes && pick.kit.length > 0 && (
        <Act waits={!wants && "Nothing more to reserve."} onClick={reserve}>
          Reserve what is there
        </Act>
      )}
      <dl className={css.facts}>
        <dt>Tools</dt>
        <dd>
          {pick.tools.join(", ")}
          {pick.sizes && <span className="mono">, {pick.sizes}</span>}
        </dd>
        <dt>Also</dt>
        <dd>{pick.consumables.join(", ") || "nothing"}</dd>
        {pick.lifting && (
          <>
            <dt>Lifting</dt>
            <dd>hoist, slings, shackles: rated, in date; load cell where the weight is not known</dd>
          </>
        )}
        <dt>People</dt>
        <dd>
          {pick.people}, {pick.time} <span className="mute">({pick.time_from})</span>
        </dd>
        <dt>Isolate for</dt>
        <dd>{pick.scopes.join(", ")}</dd>
        {pick.weather && (
          <>
            <dt>Weather</dt>
            <dd>{pick.weather}</dd>
          </>
        )}
        <dt>While it is open</dt>
        <dd>{pick.due.join("; ") || "nothing else falls due on this set"}</dd>
        {view.restarts && (
          <>
            <dt>Restarts after</dt>
            <dd>{view.restarts}</dd>
          </>
        )}
      </dl>
    </section>
  );
}
function Owner({ job, view }: { job: Job; view: View }) {
  const value = (n: string, held: string) => String(job.typed[`about:${n}`] ?? held);
  if (!job.tools.writes) return null;
  const rows = [
    ["owner", "Owner of the job", view.owner],
    ["waits", "Waits for", view.waits],
    ["sizes", "Tool sizes here", view.pick?.sizes ?? ""],
  ] as const;
  const changed = rows.filter(([n, , held]) => value(n, held) !== held);
  const date = String(job.typed["about:expected"] ?? view.expected ?? "");
  const moved = date !== (view.expected ?? "");
  const keep = () => {
    job.say({
      kind: "about",
      ...Object.fromEntries(changed.map(([n, , held]) => [n, value(n, held).trim()])),
      ...(moved && date ? { expected: date } : {}),
    } as Body);
    job.forget("about:owner", "about:waits", "about:sizes", "about:expected");
  };
  return (
    <section className={css.leadrow} aria-label="Owner and expected return">
      {rows.map(([n, label, held]) => (
        <div key={n} className="field">
          <label htmlFor={`about-${n}`}>{label}</label>
          <input
            id={`about-${n}`}
            maxLength={200}
            value={value(n, held)}
            onChange={(e) => job.put(`about:${n}`, e.target.value)}
          />
        </div>
      ))}
      <div className="field">
        <label htmlFor="about-expected">Back on</label>
        <input
          id="about-expected"
          type="date"
          value={date}
          onChange={(e) => job.put("about:expected", e.target.value)}
        />
      </div>
      <Act waits={changed.length === 0 && !moved && "Nothing changed."} onClick={keep}>
        Save
      </Act>
    </section>
  );
}
