/** What hangs on a set, each with what ends it: temporary changes, repairs put off, what is to be looked at again. */
import { Act, SENDING, address, Complaint, day, useMe, useSmallForm, VerdictShape } from "../base";
import { useSites, type SetOut } from "../plant";
import { MatterBox, Tags } from "./components";
import { sentence } from "./logic";
import { ReadyList } from "./ReadyList";
import { Stops } from "./Stops";
import { useSetSafety, type SetSafety } from "./queries";
import css from "./safety.module.scss";
import { ChangeForm } from "./ChangeForm";
import { DeferralForm } from "./DeferralForm";
import { WaiverForm } from "./WaiverForm";

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
      <ReadyList set={set} />
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
          <ChangeForm set={set} /> <DeferralForm set={set} /> {lead && <WaiverForm set={set} />}
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
