/** Making a site, a service, a duty pair or one set. */
import { useState, type ReactNode } from "react";
import {
  Act,
  SENDING,
  address,
  ApiError,
  Complaint,
  problemOf,
  small,
  useSmallForm,
  type Schemas,
} from "../../base";
import { useKinds, type Site } from "../queries";
import { Train } from "./Train";
import css from "../plant.module.scss";

function Line({
  id,
  label,
  value,
  error,
  onChange,
  hint,
}: {
  id: string;
  label: string;
  value: string;
  error?: string;
  onChange: (v: string) => void;
  hint?: string;
}) {
  return (
    <div className="field">
      <label htmlFor={id}>{label}</label>
      <input id={id} value={value} placeholder={hint} onChange={(e) => onChange(e.target.value)} />
      {error && <span className="bad">{error}</span>}
    </div>
  );
}
/** A small form that also tells what stands on file when another was quicker. */
function useForm<T extends object>(key: string, start: T) {
  const form = useSmallForm(key, start);
  const { error } = form;
  return { ...form, current: error instanceof ApiError && error.code === "stale" ? error.current : null };
}
function Frame({
  children,
  error,
  busy,
  word,
  onGo,
}: {
  children: ReactNode;
  error: unknown;
  busy: boolean;
  word: string;
  onGo: () => void;
}) {
  return (
    <form
      className="rulebox"
      onSubmit={(e) => {
        e.preventDefault();
        onGo();
      }}
    >
      <div className={css.namegrid}>{children}</div>
      <Complaint error={error} />
      <div className="savebar">
        <Act className="btn-ink" waits={busy && SENDING}>
          {word}
        </Act>
      </div>
    </form>
  );
}

/** What a field is called on its form. */
const FIELD: Record<string, string> = {
  name: "name",
  code: "code",
  serves: "type of service",
  note: "operating note",
  consequence: "consequence of failure",
  check_every_days: "running check interval, days",
  time_zone: "time zone",
  altitude_m: "altitude, m",
};
/** What somebody else saved while this form was open. */
function Current({ now, take, keep }: { now: Record<string, unknown>; take: () => void; keep: () => void }) {
  const said = Object.entries(now)
    .filter(([k]) => k !== "version" && k !== "place_in_order")
    .map(([k, v]) => `${FIELD[k] ?? k.replaceAll("_", " ")}: ${String(v ?? "—")}`);
  return (
    <div className={small.allColumns}>
      <strong>Saved by someone else:</strong> {said.join("; ")}{" "}
      <button type="button" className="linklike" onClick={take}>
        Use saved version
      </button>{" "}
      <button type="button" className="linklike" onClick={keep}>
        Keep mine
      </button>
    </div>
  );
}
const shownAs = (now: Record<string, unknown> | null) => ({
  code: String(now?.code ?? ""),
  name: String(now?.name ?? ""),
  note: String(now?.note ?? ""),
  every: String(now?.check_every_days ?? ""),
  consequence: String(now?.consequence ?? ""),
  serves: String(now?.serves ?? ""),
});

/** A new site, or an edit of one. */
export function SiteForm({ old, done }: { old?: Site; done: (id: number) => void }) {
  const kinds = useKinds();
  const zone = old?.time_zone ?? (Intl.DateTimeFormat().resolvedOptions().timeZone || "UTC");
  const f = useForm(old ? `site:${old.id}` : "site", {
    code: old?.code ?? "",
    name: old?.name ?? "",
    time_zone: zone,
    altitude: old?.altitude_m == null ? "" : String(old.altitude_m),
    version: old?.version ?? 0,
  });
  const go = async () => {
    const altitude = f.v.altitude.trim();
    const body = {
      code: f.v.code,
      name: f.v.name,
      time_zone: f.v.time_zone,
      altitude_m: altitude === "" ? null : altitude,
    };
    const made = old
      ? await f.send(
          "PUT",
          address("/api/v1/sites/{site_id}", { site_id: old.id }),
          { ...body, version: f.v.version },
          `site ${old.code}`,
        )
      : await f.send("POST", address("/api/v1/sites", {}), body, "new site");
    if (made) done(made.id);
  };
  return (
    <Frame error={f.error} busy={f.busy} word={old ? "Save site" : "Add site"} onGo={() => void go()}>
      {f.current && (
        <Current
          now={f.current}
          take={() =>
            f.set({
              code: String(f.current?.code),
              name: String(f.current?.name),
              time_zone: String(f.current?.time_zone),
              altitude: String(f.current?.altitude_m ?? ""),
              version: Number(f.current?.version),
            })
          }
          keep={() => f.set({ version: Number(f.current?.version) })}
        />
      )}
      <Line
        id="site-code"
        label="Code"
        value={f.v.code}
        error={problemOf(f.error, "code")}
        onChange={(code) => f.set({ code })}
      />
      <Line
        id="site-name"
        label="Name"
        value={f.v.name}
        error={problemOf(f.error, "name")}
        onChange={(name) => f.set({ name })}
      />
      <div className="field">
        <label htmlFor="site-zone">Time zone</label>
        <select id="site-zone" value={f.v.time_zone} onChange={(e) => f.set({ time_zone: e.target.value })}>
          {[...new Set([f.v.time_zone, ...(kinds.data?.time_zones ?? [])])].map((z) => (
            <option key={z}>{z}</option>
          ))}
        </select>
      </div>
      <Line
        id="site-alt"
        label="Altitude, m"
        value={f.v.altitude}
        error={problemOf(f.error, "altitude_m")}
        onChange={(altitude) => f.set({ altitude })}
      />
    </Frame>
  );
}

export function AddService({ siteId, count }: { siteId: number; count: number }) {
  const [open, setOpen] = useState(count === 0);
  if (!open)
    return (
      <button className="btn-line" onClick={() => setOpen(true)}>
        Add a service
      </button>
    );
  return <ServiceForm siteId={siteId} place={count} done={() => setOpen(false)} />;
}

/** A new service, or an edit of one; a stale edit is refused with what stands now. */
export function ServiceForm({
  siteId,
  place,
  old,
  done,
}: {
  siteId: number;
  place: number;
  old?: Schemas["ServiceOut"];
  done: () => void;
}) {
  const start = {
    code: old?.code ?? "",
    name: old?.name ?? "",
    note: old?.note ?? "",
    every: String(old?.check_every_days ?? 35),
    consequence: String(old?.consequence ?? 2),
    serves: old?.serves ?? "other",
    version: old?.version ?? 0,
  };
  const serves = useKinds().data?.serves ?? [];
  const f = useForm(old ? `service:${siteId}:${old.id}` : `service:${siteId}`, start);
  const go = async () => {
    const body = {
      code: f.v.code,
      name: f.v.name,
      note: f.v.note,
      check_every_days: f.v.every,
      consequence: f.v.consequence,
      serves: f.v.serves,
      place_in_order: place,
    };
    const made = old
      ? await f.send(
          "PUT",
          address("/api/v1/services/{service_id}", { service_id: old.id }),
          { ...body, version: f.v.version },
          `service ${old.code}`,
        )
      : await f.send(
          "POST",
          address("/api/v1/sites/{site_id}/services", { site_id: siteId }),
          body,
          "new service",
        );
    if (made) done();
  };
  return (
    <Frame error={f.error} busy={f.busy} word={old ? "Save service" : "Add service"} onGo={() => void go()}>
      {f.current && (
        <Current
          now={f.current}
          take={() => f.set({ ...shownAs(f.current), version: Number(f.current?.version) })}
          keep={() => f.set({ version: Number(f.current?.version) })}
        />
      )}
      <Line
        id="svc-code"
        label="Service code"
        value={f.v.code}
        error={problemOf(f.error, "code")}
        onChange={(code) => f.set({ code })}
      />
      <Line
        id="svc-name"
        label="Service name"
        value={f.v.name}
        error={problemOf(f.error, "name")}
        onChange={(name) => f.set({ name })}
        hint="chilled water"
      />
      <Line
        id="svc-note"
        label="Operating note"
        value={f.v.note}
        onChange={(note) => f.set({ note })}
        hint="continuous, one of two running"
      />
      <Line
        id="svc-every"
        label="Running check interval, days"
        value={f.v.every}
        error={problemOf(f.error, "check_every_days")}
        onChange={(every) => f.set({ every })}
      />
      <div className="field">
        <label htmlFor="svc-serves">What it serves</label>
        <select id="svc-serves" value={f.v.serves} onChange={(e) => f.set({ serves: e.target.value })}>
          {serves.map((x) => (
            <option key={x.id} value={x.id}>
              {x.title}
            </option>
          ))}
        </select>
      </div>
      <div className="field">
        <label htmlFor="svc-weight">Consequence of failure</label>
        <select
          id="svc-weight"
          value={f.v.consequence}
          onChange={(e) => f.set({ consequence: e.target.value })}
        >
          <option value="1">inconvenience</option>
          <option value="2">loss</option>
          <option value="3">danger to people or animals</option>
        </select>
      </div>
    </Frame>
  );
}

export function AddSets({ serviceId, pair, done }: { serviceId: number; pair: boolean; done: () => void }) {
  const kinds = useKinds().data?.kinds ?? [];
  const f = useForm(`sets:${serviceId}:${pair}`, {
    tag: "",
    standby: "",
    name: "",
    place: "",
    nickname: "",
    kind: "base_mounted",
    control: "starter" as Schemas["SetIn"]["control"],
  });
  const kind = kinds.find((k) => k.id === f.v.kind);
  const go = async () => {
    const shared = { name: f.v.name, place: f.v.place, kind: f.v.kind, control: f.v.control };
    const made = pair
      ? await f.send(
          "POST",
          address("/api/v1/services/{service_id}/pairs", { service_id: serviceId }),
          { ...shared, duty_tag: f.v.tag, standby_tag: f.v.standby },
          "new pair",
        )
      : await f.send(
          "POST",
          address("/api/v1/services/{service_id}/sets", { service_id: serviceId }),
          { ...shared, tag: f.v.tag, nickname: f.v.nickname, role: "single", pair: "" },
          "new pump set",
        );
    if (made) done();
  };
  return (
    <Frame error={f.error} busy={f.busy} word={pair ? "Add pair" : "Add set"} onGo={() => void go()}>
      <Line
        id="new-tag"
        label={pair ? "Duty set tag" : "Tag"}
        value={f.v.tag}
        error={problemOf(f.error, pair ? "duty_tag" : "tag") || problemOf(f.error, "tag")}
        onChange={(tag) => f.set({ tag })}
      />
      {pair && (
        <Line
          id="new-standby"
          label="Standby set tag"
          value={f.v.standby}
          error={problemOf(f.error, "standby_tag")}
          onChange={(standby) => f.set({ standby })}
        />
      )}
      <Line id="new-name" label="Name (what it does)" value={f.v.name} onChange={(name) => f.set({ name })} />
      <Line id="new-place" label="Location" value={f.v.place} onChange={(place) => f.set({ place })} />
      {!pair && (
        <Line
          id="new-nick"
          label="Nickname"
          value={f.v.nickname}
          onChange={(nickname) => f.set({ nickname })}
        />
      )}
      <div className="field">
        <label htmlFor="new-kind">Type</label>
        <select id="new-kind" value={f.v.kind} onChange={(e) => f.set({ kind: e.target.value })}>
          {kinds.map((k) => (
            <option key={k.id} value={k.id}>
              {k.title}
            </option>
          ))}
        </select>
      </div>
      <div className="field">
        <label htmlFor="new-control">Motor control</label>
        <select
          id="new-control"
          value={f.v.control}
          onChange={(e) => f.set({ control: e.target.value as Schemas["SetIn"]["control"] })}
        >
          <option value="starter">starter</option>
          <option value="soft_starter">soft starter</option>
          <option value="drive">drive (VFD/VSD)</option>
        </select>
      </div>
      {kind && (
        <Train
          kind={kind.id}
          posture={kind.posture}
          slots={kind.slots}
          control={f.v.control}
          parts={[]}
          label={kind.title}
          width={kind.posture === "flat" ? 230 : 100}
        />
      )}
    </Frame>
  );
}
