/** The drives of a site on its network: a wire along the page, each drive hanging on it by its address. */
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useParams } from "react-router";
import { Act, address, Complaint, outbox, Ready, useGet, useSmallForm, type Schemas } from "../../base";
import { useRegister } from "../../plant";
import css from "./drives.module.scss";

type Drive = Schemas["DriveAddressOut"];
type Family = Schemas["FamilyOut"];
interface Typed {
  set: string;
  host: string;
  port: string;
  unit: string;
  family: string;
}
const BLANK: Typed = { set: "", host: "", port: "502", unit: "1", family: "" };

export function DrivesPage() {
  const site = Number(useParams().siteId);
  const drives = useGet("/api/v1/sites/{site_id}/drives", { site_id: site });
  return (
    <div className={css.page}>
      <h1>Drives on the network</h1>
      <p className="mute">
        Settings are read from these addresses by the server's worker, never written. No other address is
        asked.
      </p>
      <Ready query={drives} what="Loading drives">
        {(list) => <Wire site={site} drives={list.drives} families={list.families} />}
      </Ready>
    </div>
  );
}
function Wire({
  site,
  drives,
  families,
}: {
  site: number;
  drives: readonly Drive[];
  families: readonly Family[];
}) {
  const [open, setOpen] = useState<Typed | null>(null);
  const title = (id: string) => families.find((f) => f.id === id)?.title ?? id;
  return (
    <>
      {drives.length === 0 && (
        <div className="emptyword">
          <p>No drive is read yet. Enter where one answers: from then on its settings come with one press.</p>
        </div>
      )}
      <ul className={css.wire}>
        {drives.map((d) => (
          <li key={d.set_id} data-drive={d.tag}>
            <button
              type="button"
              className="linklike"
              onClick={() =>
                setOpen({
                  set: String(d.set_id),
                  host: d.host,
                  port: String(d.port),
                  unit: String(d.unit),
                  family: d.family,
                })
              }
            >
              <strong className="mono">{d.tag}</strong>
            </button>
            <span className="mono">
              {d.host}:{d.port}
            </span>
            <span>
              unit {d.unit}, {title(d.family)}
            </span>
            <span className="mute">entered by {d.by}</span>
          </li>
        ))}
      </ul>
      {open ? (
        <Address
          key={open.set}
          site={site}
          start={open}
          families={families}
          listed={drives}
          done={() => setOpen(null)}
        />
      ) : (
        <button className="btn-line" type="button" onClick={() => setOpen(BLANK)}>
          Add a drive
        </button>
      )}
    </>
  );
}
interface FormProps {
  site: number;
  start: Typed;
  families: readonly Family[];
  listed: readonly Drive[];
  done: () => void;
}
function Address({ site, start, families, listed, done }: FormProps) {
  const register = useRegister(site);
  const client = useQueryClient();
  const form = useSmallForm<Typed>(`drive:${String(site)}:${start.set}`, start);
  const { v: typed, set: say } = form;
  const sets = (register.data?.sets ?? []).filter((s) => s.control === "drive");
  const path = address("/api/v1/sets/{set_id}/drive-address", { set_id: Number(typed.set) });
  const over = async (sent: Promise<unknown>) => {
    if ((await sent) === null) return;
    await client.invalidateQueries({ queryKey: ["/api/v1/sites/{site_id}/drives"] });
    done();
  };
  const { host, family } = typed;
  const body = { host, family, port: Number(typed.port), unit: Number(typed.unit) };
  const save = () => over(form.send("PUT", path, body, "a drive's address"));
  const drop = () => over(outbox.write("DELETE", path, undefined, "a drive's address").then(() => true));
  const field = (name: "host" | "port" | "unit", label: string) => (
    <div className="field">
      <label htmlFor={`drive-${name}`}>{label}</label>
      <input
        id={`drive-${name}`}
        className="mono"
        autoComplete="off"
        maxLength={60}
        value={typed[name]}
        onChange={(e) => say({ [name]: e.target.value })}
      />
    </div>
  );
  return (
    <div className="rulebox">
      <div className={css.form}>
        <div className="field">
          <label htmlFor="drive-set">Pump set</label>
          <select id="drive-set" value={typed.set} onChange={(e) => say({ set: e.target.value })}>
            <option value="">choose</option>
            {sets.map((s) => (
              <option key={s.id} value={s.id}>
                {s.tag}
              </option>
            ))}
          </select>
        </div>
        {field("host", "IP address")}
        {field("port", "Port")}
        {field("unit", "Unit number")}
        <div className="field">
          <label htmlFor="drive-family">Family</label>
          <select id="drive-family" value={typed.family} onChange={(e) => say({ family: e.target.value })}>
            <option value="">choose</option>
            {families.map((f) => (
              <option key={f.id} value={f.id}>
                {f.title}
              </option>
            ))}
          </select>
        </div>
      </div>
      <Complaint error={form.error} />
      <p className="rowflex">
        <Act className="btn-ink" waits={!typed.set && "Choose a pump set."} onClick={() => void save()}>
          Save address
        </Act>
        {listed.some((d) => String(d.set_id) === typed.set) && (
          <button className="btn-line" type="button" onClick={() => void drop()}>
            Take off the list
          </button>
        )}
        <button className="btn-line" type="button" onClick={done}>
          Close
        </button>
      </p>
    </div>
  );
}
