/**
 * The instruments of a site as they hang on the board, each with the time in which its readings count;
 * below, who may read live parts.
 */
import { useState, type ReactNode } from "react";
import {
  Act,
  Complaint,
  CsvFiles,
  Ready,
  SENDING,
  address,
  day,
  useMe,
  useSession,
  useSmallForm,
  VerdictShape,
} from "../base";
import { chosenSite, useSites } from "../plant";
import { Board, Lane } from "./Board";
import { Day } from "./Day";
import { InstrumentForm } from "./InstrumentForm";
import { stretch } from "./logic";
import { Sign } from "./Sign";
import { useInHand, useRegisterOf, type Instrument, type Named, type Register } from "./queries";
import css from "./instruments.module.scss";

export function InstrumentsPage({ people }: { people: ReactNode }) {
  const site = chosenSite(useSites().data);
  const register = useRegisterOf(site?.id ?? null);
  return (
    <div className={css.page}>
      <h1>Instruments</h1>
      {site && (
        <Ready query={register} what="Loading instruments">
          {(r) => <Shelf site={site.id} register={r} />}
        </Ready>
      )}
      {people}
    </div>
  );
}
function Shelf({ site, register }: { site: number; register: Register }) {
  const { now } = useSession();
  const [today] = useState(now);
  const [time] = useState(() => stretch(today));
  const [adding, setAdding] = useState(false);
  const named = useInHand(site);
  const here = register.instruments.filter((i) => i.until === null);
  const gone = register.instruments.filter((i) => i.until !== null);
  return (
    <>
      {here.length === 0 && (
        <div className="emptyword">
          <p>
            No instrument yet. Enter what stands on its label, its range and resolution, its measurement
            category and when its calibration is due. From then on readings name the instrument that took
            them; one out of date, or of too low a category, is no ground for a good verdict.
          </p>
        </div>
      )}
      {here.length > 0 && (
        <Board stretch={time} today={today} label="Instruments in service">
          {here.map((i) => (
            <Row key={i.id} {...{ tool: i, site, register, named, time, today }} />
          ))}
        </Board>
      )}
      {register.may && !adding && (
        <p className={css.add}>
          <button className="btn-line" onClick={() => setAdding(true)}>
            Add instrument
          </button>
        </p>
      )}
      {register.may && adding && (
        <InstrumentForm site={site} kinds={register.kinds} close={() => setAdding(false)} />
      )}
      <CsvFiles<{ instruments: number }>
        site={site}
        out={here.length > 0 ? `/api/v1/sites/${site}/instruments.csv` : null}
        into={register.may ? `/api/v1/sites/${site}/instruments/file` : null}
        label="Register file"
        taken={(answer) => `${answer.instruments} instruments imported.`}
      />
      {gone.length > 0 && (
        <details>
          <summary>Out of service</summary>
          <ul className="notes">
            {gone.map((i) => (
              <li key={i.id}>
                {i.name}, {i.title.toLowerCase()}: {i.until_because} {register.may && <Again tool={i} />}
              </li>
            ))}
          </ul>
        </details>
      )}
    </>
  );
}
interface RowProps {
  tool: Instrument;
  site: number;
  register: Register;
  named: Named;
  time: ReturnType<typeof stretch>;
  today: Date;
}
function Row({ tool, site, register, named, time, today }: RowProps) {
  const [open, setOpen] = useState<"" | "calibrate" | "change" | "retire">("");
  const { hand, take } = named;
  const me = useMe();
  const mine = tool.spans.filter((s) => hand[s.reads] === String(tool.id));
  const last = tool.calibrations[0];
  const kind = register.kinds.find((k) => k.id === tool.kind);
  const close = () => setOpen("");
  return (
    <Lane
      stretch={time}
      today={today}
      name={tool.name}
      verdict={tool.verdict}
      since={last?.done ?? (kind?.calibrated ? null : tool.since.slice(0, 10))}
      last={tool.due}
      open={kind?.calibrated === false}
      head={
        <>
          <Sign kind={tool.kind} size={34} />
          <span>
            <strong>{tool.name}</strong> <span className="mute">{tool.title}</span>
            <span className={css.fine}>
              {[
                ...(tool.category ? [tool.category] : kind?.live ? ["no measurement category"] : []),
                ...tool.spans.map((s) => `${s.word} to ${s.top} by ${s.step}`),
              ].join(" · ")}
            </span>
            <button
              className="linklike"
              aria-pressed={mine.length > 0}
              onClick={() =>
                tool.spans.forEach((s) => take(s.reads, mine.length > 0 ? null : String(tool.id)))
              }
            >
              {mine.length > 0 ? `In hand for ${mine.map((s) => s.word).join(", ")}` : "Take in hand"}
            </button>
          </span>
        </>
      }
      says={
        <>
          <span className={`v-${tool.verdict} ${css.says}`}>
            <VerdictShape verdict={tool.verdict} /> {tool.says}
          </span>
          {tool.due && (
            <span className={css.fine}>
              {tool.left !== null && tool.left > 0 ? "due" : "was due"}{" "}
              {day(`${tool.due}T12:00:00Z`, "UTC", me.locale)}
            </span>
          )}
          {register.may && (
            <span className={css.acts}>
              {(["calibrate", "change", "retire"] as const).map((what) => (
                <button
                  key={what}
                  className="linklike"
                  aria-expanded={open === what}
                  onClick={() => setOpen(open === what ? "" : what)}
                >
                  {WORDS[what]}
                </button>
              ))}
            </span>
          )}
        </>
      }
    >
      {open === "calibrate" && <Calibrated tool={tool} close={close} />}
      {open === "retire" && <Retired tool={tool} close={close} />}
      {open === "change" && <InstrumentForm site={site} kinds={register.kinds} tool={tool} close={close} />}
    </Lane>
  );
}
const WORDS = { calibrate: "Enter calibration", change: "Change", retire: "Take out of service" };
const FOUND: [string, string][] = [
  ["", "not stated"],
  ["within", "within tolerance as found"],
  ["out", "out of tolerance as found"],
];
function Calibrated({ tool, close }: { tool: Instrument; close: () => void }) {
  const me = useMe();
  const form = useSmallForm(`calibrated:${tool.id}`, { done: "", due: "", found: "", note: "" });
  const path = address("/api/v1/instruments/{instrument_id}/calibrations", { instrument_id: tool.id });
  const { v, set } = form;
  const send = async () => {
    const body = { done: v.done, due: v.due || null, found: v.found as "", note: v.note };
    if (await form.send("POST", path, body, `${tool.name}, calibration`)) close();
  };
  return (
    <div className={css.form}>
      <Day id={`done-${tool.id}`} label="Calibrated on" value={v.done} onChange={(done) => set({ done })} />
      <Day id={`due-${tool.id}`} label="Next due" value={v.due} onChange={(due) => set({ due })} />
      <div className="field">
        <label htmlFor={`found-${tool.id}`}>The certificate says</label>
        <select id={`found-${tool.id}`} value={v.found} onChange={(e) => set({ found: e.target.value })}>
          {FOUND.map(([id, word]) => (
            <option key={id} value={id}>
              {word}
            </option>
          ))}
        </select>
      </div>
      <Act
        className="btn-ink"
        waits={
          (form.busy && SENDING) ||
          (!v.done && "Enter the day of the calibration.") ||
          (!v.due && "Enter when the next one is due.")
        }
        onClick={() => void send()}
      >
        Save calibration
      </Act>
      {v.found === "out" && (
        <p className="notice bad">
          What it read since the calibration before is evaluated anew and no longer counts as good.
        </p>
      )}
      <Complaint error={form.error} />
      {tool.calibrations.length > 0 && (
        <ul className={`notes ${css.past}`} aria-label="Calibrations on record">
          {tool.calibrations.map((c) => (
            <li key={c.done}>
              {day(`${c.done}T12:00:00Z`, "UTC", me.locale)}
              {c.due && `, due ${day(`${c.due}T12:00:00Z`, "UTC", me.locale)}`}
              {c.found && `, ${FOUND.find(([id]) => id === c.found)?.[1] ?? ""}`}, {c.by}
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
function Retired({ tool, close }: { tool: Instrument; close: () => void }) {
  const form = useSmallForm(`retired:${tool.id}`, { because: "" });
  const path = address("/api/v1/instruments/{instrument_id}/retire", { instrument_id: tool.id });
  return (
    <div className={css.form}>
      <div className="field">
        <label htmlFor={`because-${tool.id}`}>Reason</label>
        <input
          id={`because-${tool.id}`}
          maxLength={200}
          value={form.v.because}
          onChange={(e) => form.set({ because: e.target.value })}
        />
      </div>
      <Act
        className="btn-ink"
        waits={(form.busy && SENDING) || (!form.v.because.trim() && "Enter the reason first.")}
        onClick={() =>
          void form.send("POST", path, form.v, `${tool.name}, out of service`).then((ok) => ok && close())
        }
      >
        Take out of service
      </Act>
      <Complaint error={form.error} />
    </div>
  );
}
/** Taken out by mistake, or found again. */
function Again({ tool }: { tool: Instrument }) {
  const form = useSmallForm(`again:${tool.id}`, { version: tool.version });
  const path = address("/api/v1/instruments/{instrument_id}/reinstate", { instrument_id: tool.id });
  return (
    <>
      <button
        className="linklike"
        onClick={() =>
          void form.send("POST", path, { version: tool.version }, `${tool.name}, back in service`)
        }
      >
        Return to service
      </button>
      <Complaint error={form.error} />
    </>
  );
}
