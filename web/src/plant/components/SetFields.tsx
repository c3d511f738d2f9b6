/** Tag, name, place of a set; a stale edit shows both. */
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import {
  address,
  ApiError,
  Complaint,
  outbox,
  problemOf,
  renew,
  useDraft,
  useMe,
  type Schemas,
} from "../../base";
import { useRegister, type SetOut } from "../queries";
import css from "../plant.module.scss";

const FIELDS = [
  ["tag", "Tag"],
  ["name", "Name (what it does)"],
  ["place", "Location"],
  ["nickname", "Nickname"],
  ["pair", "Pair"],
] as const;
type Edit = Schemas["SetEdit"];

export function SetFields({ set, done }: { set: SetOut; done: () => void }) {
  const me = useMe();
  const client = useQueryClient();
  const services = useRegister(set.site_id).data?.services ?? [];
  const [start] = useState<Edit>({
    tag: set.tag,
    name: set.name,
    place: set.place,
    nickname: set.nickname,
    role: set.role as Edit["role"],
    pair: set.pair,
    service_id: set.service_id,
    version: set.version,
  });
  const draft = useDraft<Edit>(`${me.username}:set:${set.id}`, start);
  const [error, setError] = useState<unknown>(null);
  const v = draft.value;
  const current = error instanceof ApiError && error.code === "stale" ? (error.current as Edit | null) : null;
  const save = async () => {
    setError(null);
    try {
      await outbox.write("PUT", address("/api/v1/sets/{set_id}", { set_id: set.id }), v, `${set.tag}: edit`);
      draft.done(start);
      await renew(client, { set: set.id });
      done();
    } catch (e) {
      setError(e);
    }
  };
  return (
    <div className="rulebox">
      <div className={css.namegrid}>
        {FIELDS.map(([name, label]) => (
          <div className="field" key={name}>
            <label htmlFor={`set-${name}`}>{label}</label>
            <input
              id={`set-${name}`}
              value={v[name]}
              onChange={(e) => draft.change((d) => ({ ...d, [name]: e.target.value }))}
            />
            {current && current[name] !== v[name] && (
              <span className="bad">saved by someone else: {current[name] || "—"}</span>
            )}
            {problemOf(error, name) && <span className="bad">{problemOf(error, name)}</span>}
          </div>
        ))}
        <div className="field">
          <label htmlFor="set-role">Role</label>
          <select
            id="set-role"
            value={v.role}
            onChange={(e) => draft.change((d) => ({ ...d, role: e.target.value as Edit["role"] }))}
          >
            {["duty", "standby", "single"].map((r) => (
              <option key={r}>{r}</option>
            ))}
          </select>
        </div>
        <div className="field">
          <label htmlFor="set-service">Service</label>
          <select
            id="set-service"
            value={v.service_id}
            onChange={(e) => draft.change((d) => ({ ...d, service_id: Number(e.target.value) }))}
          >
            {services.map((s) => (
              <option key={s.id} value={s.id}>
                {s.name}
              </option>
            ))}
          </select>
        </div>
      </div>
      <Complaint error={error} />
      <div className="savebar">
        {current && (
          <button
            className="btn-line"
            onClick={() => {
              draft.change((d) => ({ ...d, ...current }));
              setError(null);
            }}
          >
            Use saved version
          </button>
        )}
        {current && (
          <button
            className="btn-line"
            onClick={() => {
              draft.change((d) => ({ ...d, version: current.version }));
              setError(null);
            }}
          >
            Keep mine
          </button>
        )}
        <button className="btn-ink" onClick={() => void save()}>
          Save set
        </button>
      </div>
    </div>
  );
}
