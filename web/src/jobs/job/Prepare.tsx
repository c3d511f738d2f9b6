/**
 * Before leaving for the pump: what the set lacks, the pick list against the shelves, people and time, isolation,
 * what else is due.
 */
import { Act, CsvFiles, VerdictWord, type Schemas } from "../../base";
import { NamedFigure } from "../../safety";
import { isFigure, type Body, type Job, type View } from "./useJob";
import { Pair } from "./Pair";
import css from "./job.module.scss";

type Forecast = Schemas["WeatherOut"];

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
      {view.pair && <Pair job={job} pair={view.pair} />}
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
  const takes = pick.kit.flatMap((k) => k.takes);
  const reserve = () => {
    for (const t of takes) job.say({ kind: "part", ...t } as Body);
  };
  return (
    <section className={css.pick} aria-label="Pick list">
      <h2>Take along{pick.kit_title && `: kit “${pick.kit_title}”`}</h2>
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
        <Act waits={takes.length === 0 && "Nothing more to reserve."} onClick={reserve}>
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
            <dd data-weather={pick.weather.verdict}>
              {pick.weather.wants}: <VerdictWord verdict={pick.weather.verdict} /> {pick.weather.says}
              {job.tools.writes && (
                <CsvFiles<Forecast>
                  site={job.tools.given.set.site_id}
                  out={null}
                  into={`/api/v1/sites/${String(job.tools.given.set.site_id)}/weather/file`}
                  label="Forecast file"
                  brings={{ words: "Import forecast", accept: ".json,application/json" }}
                  taken={(f) => `Forecast ${f.source}: on file.`}
                />
              )}
            </dd>
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
