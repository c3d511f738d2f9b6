/** The parts of one set: what stands at each place, its plate and its versions; swap one, the history goes along. */
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";
import {
  address,
  ApiError,
  Complaint,
  dayTime,
  instant,
  localField,
  outbox,
  Ready,
  renew,
  small,
  useDraft,
  useGet,
  useMe,
  useSession,
  type Schemas,
} from "../../base";
import { PlateForm } from "../components/PlateForm";
import { SetFields } from "../components/SetFields";
import { Train } from "../components/Train";
import { useKinds, useRegister, useSet, useSites, type Component, type SetOut } from "../queries";
import css from "../plant.module.scss";

export function PartsPage() {
  const set = useSet(Number(useParams().setId));
  return (
    <Ready query={set} what="Loading pump set">
      {(s) => <Parts set={s} />}
    </Ready>
  );
}

function Parts({ set }: { set: SetOut }) {
  const admin = set.may === "admin";
  const zone = useSites().data?.find((s) => s.id === set.site_id)?.time_zone ?? "UTC";
  const kinds = useKinds();
  const [editing, setEditing] = useState(false);
  return (
    <>
      <div className={`rowflex ${small.between}`}>
        <h1>
          <Link className="mono" to={`/sets/${set.id}`}>
            {set.tag}
          </Link>{" "}
          <span className={small.light}>parts and nameplates</span>
        </h1>
        {admin && (
          <button className="btn-line" onClick={() => setEditing(!editing)}>
            {editing ? "Cancel" : "Edit set"}
          </button>
        )}
      </div>
      <p className="mute">
        {set.kind_title}; {set.service}
      </p>
      {editing && <SetFields set={set} done={() => setEditing(false)} />}
      <Train
        kind={set.kind}
        posture={set.posture}
        slots={set.slots}
        parts={[]}
        label={set.tag}
        width={set.posture === "flat" ? 420 : 160}
      />
      {set.slots.map((slot) => {
        const part = kinds.data?.parts.find((p) => p.id === slot);
        if (!part?.holds.length) return null;
        return (
          <Place
            key={slot}
            set={set}
            part={part}
            component={set.components.find((c) => c.slot === slot)}
            admin={admin}
            zone={zone}
          />
        );
      })}
    </>
  );
}

function Place({
  set,
  part,
  component,
  admin,
  zone,
}: {
  set: SetOut;
  part: Schemas["Part"];
  component: Component | undefined;
  admin: boolean;
  zone: string;
}) {
  const [open, setOpen] = useState<"" | "plate" | "swap" | "versions">("");
  const me = useMe();
  const toggle = (what: typeof open) => setOpen(open === what ? "" : what);
  // A form that is done closes itself, not what was opened meanwhile.
  const close = (what: typeof open) => setOpen((now) => (now === what ? "" : now));
  return (
    <section className="ruled" data-slot={part.id}>
      <div className="rowflex">
        <strong className={small.just9}>{part.title}</strong>
        {component ? (
          <span>
            {component.label}{" "}
            <span className="mute">
              ({component.kind.replace("_", " ")}, fitted{" "}
              {component.fitted_from ? dayTime(component.fitted_from, zone, me.locale) : ""})
            </span>
          </span>
        ) : (
          <span className="mute">no part fitted</span>
        )}
        <span className={`rowflex ${small.toRight}`}>
          {component && admin && (
            <button className="btn-line" onClick={() => toggle("plate")}>
              {component.plate_version ? "Edit nameplate" : "Enter nameplate"}
            </button>
          )}
          {component && component.plate_version > 0 && (
            <button className="linklike" onClick={() => toggle("versions")}>
              version {component.plate_version}
            </button>
          )}
          {admin && (
            <button className="btn-line" onClick={() => toggle("swap")}>
              {component ? "Replace part" : "Fit part"}
            </button>
          )}
        </span>
      </div>
      {component && component.lines.length > 0 && (
        <p className={small.closerBelow}>{component.lines.join("; ")}</p>
      )}
      {component?.missing.map((m) => (
        <p key={m.field} className={`v-unknown ${small.tightBelow}`}>
          {m.message}
        </p>
      ))}
      {open === "plate" && component && (
        <PlateForm key={component.plate_version} component={component} done={() => close("plate")} />
      )}
      {open === "swap" && <Swap set={set} part={part} zone={zone} done={() => close("swap")} />}
      {open === "versions" && component && <Versions id={component.id} zone={zone} />}
    </section>
  );
}

function Versions({ id, zone }: { id: number; zone: string }) {
  const me = useMe();
  const rows = useGet("/api/v1/components/{component_id}/plates", { component_id: id });
  return (
    <Ready query={rows}>
      {(list) => (
        <ul className="hist">
          {list.map((v) => (
            <li key={v.version}>
              Version {v.version}, {dayTime(v.at, zone, me.locale)}, {v.by || "—"}: “{v.reason}”
            </li>
          ))}
        </ul>
      )}
    </Ready>
  );
}

function Swap({
  set,
  part,
  zone,
  done,
}: {
  set: SetOut;
  part: Schemas["Part"];
  zone: string;
  done: () => void;
}) {
  const register = useRegister(set.site_id);
  const { now } = useSession();
  const client = useQueryClient();
  const [start] = useState({ component: "", kind: part.holds[0] ?? "", label: "", at: "", note: "" });
  const draft = useDraft(`swap:${set.id}:${part.id}`, start);
  const [error, setError] = useState<ApiError | unknown>(null);
  const v = draft.value;
  const named = `${set.tag} ${(part.holds.length === 1 && part.holds[0]?.replace("_", " ")) || part.title.toLowerCase()}`;
  const set1 = (change: Partial<typeof start>) => draft.change((d) => ({ ...d, ...change }));
  const stopped = error instanceof ApiError && error.code === "fitting_stop";
  const save = async (although: boolean) => {
    setError(null);
    try {
      let id = Number(v.component);
      if (!v.component) {
        const made = await outbox.write(
          "POST",
          address("/api/v1/sites/{site_id}/components", { site_id: set.site_id }),
          { kind: v.kind, label: v.label || named },
          "a new part",
        );
        id = made.id;
        set1({ component: String(id) });
      }
      await outbox.write(
        "POST",
        address("/api/v1/sets/{set_id}/fittings", { set_id: set.id }),
        {
          slot: part.id,
          component_id: id,
          from_at: v.at === "" ? now().toISOString() : await instant(v.at, zone),
          note: v.note,
          although,
        },
        `${set.tag}: fitting`,
      );
      draft.done(start);
      await renew(client, { set: set.id });
      done();
    } catch (e) {
      setError(e);
      await client.invalidateQueries({ queryKey: ["/api/v1/sites/{site_id}/register"] });
    }
  };
  const spares = register.data?.spares.filter((c) => part.holds.includes(c.kind)) ?? [];
  return (
    <div className="rulebox">
      <div className={css.namegrid}>
        <div className="field">
          <label htmlFor={`sp${part.id}`}>Part to fit</label>
          <select
            id={`sp${part.id}`}
            value={v.component}
            onChange={(e) => set1({ component: e.target.value })}
          >
            <option value="">new part</option>
            {spares.map((c) => (
              <option key={c.id} value={c.id}>
                {c.label}
              </option>
            ))}
          </select>
        </div>
        {!v.component && part.holds.length > 1 && (
          <div className="field">
            <label htmlFor={`ki${part.id}`}>Type</label>
            <select id={`ki${part.id}`} value={v.kind} onChange={(e) => set1({ kind: e.target.value })}>
              {part.holds.map((k) => (
                <option key={k} value={k}>
                  {k.replace("_", " ")}
                </option>
              ))}
            </select>
          </div>
        )}
        {!v.component && (
          <div className="field">
            <label htmlFor={`la${part.id}`}>Part name</label>
            <input
              id={`la${part.id}`}
              value={v.label}
              placeholder={named}
              onChange={(e) => set1({ label: e.target.value })}
            />
          </div>
        )}
        <div className="field">
          <label htmlFor={`at${part.id}`}>Fitted on ({zone})</label>
          <input
            id={`at${part.id}`}
            type="datetime-local"
            value={v.at || localField(now(), zone)}
            onChange={(e) => set1({ at: e.target.value })}
          />
        </div>
        <div className="field">
          <label htmlFor={`no${part.id}`}>Reason</label>
          <input id={`no${part.id}`} value={v.note} onChange={(e) => set1({ note: e.target.value })} />
        </div>
      </div>
      <p className={`mute ${small.close}`}>The part now fitted becomes a spare. Its history goes with it.</p>
      <Complaint error={error} />
      <button className="btn-ink" onClick={() => void save(false)}>
        Fit part
      </button>{" "}
      {stopped && (
        <button className="btn-line" onClick={() => void save(true)}>
          It stands there already: record it, no start
        </button>
      )}
    </div>
  );
}
