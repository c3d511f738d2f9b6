/** On a set's page: what is offered, what hangs on it, temporary changes on and off, repairs put off, looking again. */
import { useState } from "react";
import { Link } from "react-router";
import {
  Act,
  SENDING,
  FigureInput,
  address,
  benchesOf,
  benchPath,
  Complaint,
  day,
  instant,
  localField,
  RadioGroup,
  small,
  useBenches,
  useMe,
  useSession,
  useSmallForm,
  useSymbols,
  VerdictShape,
  type BenchOut,
} from "../base";
import { useKinds, useSites, type SetOut } from "../plant";
import { MatterBox, PictureField, Tags } from "./components";
import { sentence } from "./logic";
import { Stops } from "./Stops";
import { OURS, useOffer, useSafetyWords, useSetSafety, type SetSafety } from "./queries";
import css from "./safety.module.scss";

/** What a set is opened for: the check that leads, isolating it, a call. The rest is begun at the part it belongs to. */
export function SetOffers({ set }: { set: SetOut }) {
  const benches = useBenches();
  const mine = set.may === "viewer" ? [] : benchesOf(benches.data, set);
  return (
    <span className="rowflex">
      {mine
        .filter((b) => b.leads)
        .map((b) => (
          <Leading key={b.name} set={set} bench={b} />
        ))}
      {mine
        .filter((b) => b.name === OURS)
        .map((b) => (
          <Door key={b.name} set={set} bench={b} />
        ))}
      <Link className="btn-line" to={`/call?set=${set.id}`}>
        New call
      </Link>
      {!benches.data && benches.error && (
        <span className="mute">What can be begun here could not be fetched.</span>
      )}
    </span>
  );
}
/** What can be begun at one part, in the order of the work: what is not offered now says what it waits for. */
export function SetBegin({ set, part }: { set: SetOut; part: string }) {
  const benches = useBenches().data;
  if (set.may === "viewer") return null;
  const mine = benchesOf(benches, set).filter((b) => b.part === part || b.name === OURS);
  return (
    <section className={css.begin} aria-labelledby="begin-title">
      <h2 id="begin-title">Start</h2>
      <div className={css.beginrow}>
        {mine.map((b) =>
          b.name === OURS ? (
            <Door key={b.name} set={set} bench={b} />
          ) : (
            <Waits key={b.name} set={set} bench={b} />
          ),
        )}
      </div>
    </section>
  );
}
/** A bench with its gate: while it is shut, dashed, and what it waits for beneath. What was read all the same can be written down there. */
function Waits({ set, bench }: { set: SetOut; bench: BenchOut }) {
  const { offer } = useOffer(set.id, bench.act);
  const waits = bench.act !== "" && offer?.offered !== true;
  return (
    <span className={css.beginone}>
      <Link className={waits ? `btn-line ${css.waitsfor}` : "btn-line"} to={benchPath(set.id, bench.name)}>
        {bench.offer}
      </Link>
      {waits && offer && <span className="mute">Blocked: {offer.shut[0]?.title}</span>}
    </span>
  );
}
/** What hangs on one part of a set. */
export function PartHung({ setId, part }: { setId: number; part: string }) {
  const tags = useSetSafety(setId).data?.tags.filter((t) => t.part === part) ?? [];
  return tags.length ? <Tags tags={tags} /> : null;
}
function Door({ set, bench }: { set: SetOut; bench: BenchOut }) {
  const under = useSetSafety(set.id).data?.isolation.scopes.length;
  return (
    <Link className="btn-line" to={benchPath(set.id, bench.name)}>
      {bench.name === OURS && under ? "Isolation status" : bench.offer}
    </Link>
  );
}
function Leading({ set, bench }: { set: SetOut; bench: BenchOut }) {
  const offer = useOffer(set.id, bench.act).offer;
  const to = benchPath(set.id, bench.name);
  return offer?.offered === true ? (
    <Link className="btn-ink" to={to}>
      {bench.offer}
    </Link>
  ) : (
    <Link className="linklike" to={to} title={offer?.shut[0]?.asks}>
      {bench.offer}
      {offer ? ": blocked" : ""}
    </Link>
  );
}

/** What hangs on this set, over its history: it never looks finished while something does. */
export function SetHangs({ set }: { set: SetOut }) {
  const role = useSites().data?.find((s) => s.id === set.site_id)?.role ?? "viewer";
  const lead = role === "lead" || role === "admin";
  const me = useMe();
  const safety = useSetSafety(set.id).data;
  if (!safety) return null;
  const may = set.may !== "viewer";
  return (
    <>
      {safety.tags.length > 0 && (
        <section className="ruled" aria-labelledby="hangs-title">
          <h2 id="hangs-title">Open items</h2>
          <Tags
            tags={safety.tags.filter(
              (t) =>
                t.kind !== "call" && t.kind !== "checkback" && t.kind !== "change" && t.kind !== "deferral",
            )}
          />
          {safety.matters.map((m) => (
            <MatterBox key={m.id} matter={m} may={may} />
          ))}
          {safety.check_backs.map((k) => (
            <CheckBack key={k.id} row={k} may={may} />
          ))}
          {safety.changes.map((c) => (
            <Change key={c.uuid} row={c} may={may} />
          ))}
          {safety.deferrals.map((d) => (
            <Deferral key={d.uuid} row={d} may={may} setId={set.id} />
          ))}
        </section>
      )}
      <Stops set={set} safety={safety} lead={lead} />
      {safety.past.length > 0 && (
        <details className="spared">
          <summary>Closed items</summary>
          <ul className="hist">
            {safety.past.map((x) => (
              <li key={x.at + x.title}>
                <span className="mute">
                  {day(x.at, "UTC", me.locale)}, {x.by}
                </span>{" "}
                <strong>{x.title}</strong> {x.says}
              </li>
            ))}
          </ul>
        </details>
      )}
      {may && (
        <p className="noprint">
          <Put set={set} /> <PutOff set={set} /> {lead && <SetAside set={set} />}
        </p>
      )}
    </>
  );
}

function CheckBack({ row, may }: { row: SetSafety["check_backs"][number]; may: boolean }) {
  const f = useSmallForm(`checkback:${row.id}`, { said: "" });
  return (
    <div className={css.hung} data-testid="checkback">
      <p className={`v-${row.verdict}`}>
        <VerdictShape verdict={row.verdict} /> {row.says}
      </p>
      {may && (
        <div className="noteline">
          <div className="field">
            <label htmlFor={`back${row.id}`}>What was seen</label>
            <input
              id={`back${row.id}`}
              maxLength={300}
              value={f.v.said}
              onChange={(e) => f.set({ said: e.target.value })}
            />
          </div>
          <Act
            waits={(f.busy && SENDING) || (!f.v.said.trim() && "Enter what was seen first.")}
            onClick={() =>
              void f.send(
                "POST",
                address("/api/v1/check-backs/{check_id}/read", { check_id: row.id }),
                f.v,
                "follow-up check",
              )
            }
          >
            Log follow-up check
          </Act>
        </div>
      )}
      <Complaint error={f.error} />
    </div>
  );
}
function Change({ row, may }: { row: SetSafety["changes"][number]; may: boolean }) {
  const f = useSmallForm(`change:${row.uuid}`, { note: "" });
  return (
    <div className={css.hung} data-testid="change">
      <p>
        <span className={`v-${row.verdict}`}>
          <VerdictShape verdict={row.verdict} /> {row.says}
        </span>{" "}
        <strong>{sentence(row.place)}</strong> {sentence(row.note)}{" "}
        {row.picture && (
          <a href={`/api/v1/pictures/${row.picture}.jpg`} target="_blank" rel="noreferrer">
            <img
              className={css.thumb}
              src={`/api/v1/pictures/${row.picture}.jpg`}
              alt={`${row.title}, ${row.place}`}
            />
          </a>
        )}
      </p>
      {may && (
        <div className="noteline">
          <div className="field">
            <label htmlFor={`off${row.uuid}`}>How it was restored</label>
            <input
              id={`off${row.uuid}`}
              maxLength={300}
              value={f.v.note}
              onChange={(e) => f.set({ note: e.target.value })}
            />
          </div>
          <Act
            waits={f.busy && SENDING}
            onClick={() =>
              void f.send(
                "POST",
                address("/api/v1/changes/{uuid}/off", { uuid: row.uuid }),
                f.v,
                `${row.title} restored`,
              )
            }
          >
            Confirm restored
          </Act>
        </div>
      )}
      <Complaint error={f.error} />
    </div>
  );
}
function Deferral({ row, may, setId }: { row: SetSafety["deferrals"][number]; may: boolean; setId: number }) {
  const f = useSmallForm(`deferral:${setId}:${row.uuid}`, { said: "" });
  const me = useMe();
  return (
    <div className={css.hung} data-testid="deferral">
      <p>
        <span className={row.overdue ? "v-act" : "v-watch"}>
          <VerdictShape verdict={row.overdue ? "act" : "watch"} /> {row.what}: deferred until{" "}
          {day(row.until, "UTC", me.locale)}.
        </span>{" "}
        {sentence(row.reason)}
      </p>
      <p>
        <strong>{row.limits.join(" ")}</strong> Standby: {sentence(row.standby)} End the deferral if:{" "}
        {sentence(row.changes_mind)} <span className="mute">Decided by {row.by}.</span>
      </p>
      {may && (
        <div className="noteline">
          <div className="field">
            <label htmlFor={`end${row.uuid}`}>Reason for ending</label>
            <input
              id={`end${row.uuid}`}
              maxLength={300}
              value={f.v.said}
              onChange={(e) => f.set({ said: e.target.value })}
            />
          </div>
          <Act
            waits={(f.busy && SENDING) || (!f.v.said.trim() && "Enter the reason first.")}
            onClick={() =>
              void f.send(
                "POST",
                address("/api/v1/deferrals/{uuid}/end", { uuid: row.uuid }),
                f.v,
                `${row.what}: call closed`,
              )
            }
          >
            End deferral
          </Act>
        </div>
      )}
      <Complaint error={f.error} />
    </div>
  );
}

function Put({ set }: { set: SetOut }) {
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

/** A lead sets one gate aside, with a reason and an end. Gates that a life hangs on are not on this list. */
function SetAside({ set }: { set: SetOut }) {
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

interface Bound {
  measurand: string;
  leg: "" | "1" | "2" | "3";
  floor: boolean;
  text: string;
  unit: string;
  does: string;
}
const BOUND: Bound = { measurand: "current", leg: "1", floor: false, text: "", unit: "A", does: "stop it" };
function PutOff({ set }: { set: SetOut }) {
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
