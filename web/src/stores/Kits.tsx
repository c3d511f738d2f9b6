/** Kits as trays: a compartment for each part, filled as far as the shelves can fill it; those that are short first. */
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import {
  Act,
  address,
  Complaint,
  renew,
  SENDING,
  useGet,
  useSmallForm,
  VerdictShape,
  type Schemas,
} from "../base";
import { usePlant } from "../logbook";
import { Word } from "./PartForms";
import css from "./stores.module.scss";

type Kit = Schemas["SiteKit"];
type Spare = Schemas["SpareOut"];
interface Line {
  code: string;
  wanted: number;
}

export function Kits({
  kits,
  parts,
  site,
  may,
}: {
  kits: Kit[];
  parts: Spare[];
  site: number;
  may: boolean;
}) {
  const [making, setMaking] = useState(false);
  return (
    <section aria-labelledby="kits-title">
      <h2 id="kits-title">Kits</h2>
      {kits.length === 0 && (
        <p className="mute">No kit yet. A job then lists what its procedure needs, and what here fills it.</p>
      )}
      <ul className={css.kits}>
        {kits.map((k) => (
          <li key={k.id} data-kit={k.title} data-verdict={k.verdict}>
            <Tray kit={k} />
            {may && <Change key={k.version} kit={k} parts={parts} />}
          </li>
        ))}
      </ul>
      {may &&
        parts.length > 0 &&
        (making ? (
          <NewKit site={site} parts={parts} over={() => setMaking(false)} />
        ) : (
          <button type="button" className="btn-line" onClick={() => setMaking(true)}>
            New kit
          </button>
        ))}
    </section>
  );
}
const whose = (k: Kit) => k.tag || (k.kind ? k.kind.replace(/_/g, " ") : "any set");

function Tray({ kit }: { kit: Kit }) {
  return (
    <>
      <p className={css.name}>
        <VerdictShape verdict={kit.verdict} /> <strong>{kit.title}</strong>{" "}
        <span className="mute">
          <span className="mono">{kit.procedure}</span>, {whose(kit)}
        </span>{" "}
        <span className={`v-${kit.verdict}`}>{kit.says}</span>
      </p>
      <ol className={css.tray} aria-label={`${kit.title}, parts`}>
        {kit.parts.map((p) => (
          <li key={p.code} data-line={p.code} data-short={p.short || undefined}>
            <span className="mono">
              {p.wanted} × {p.code}
            </span>
            <small>{p.title}</small>
            <small className={p.short ? "v-act" : "mute"}>
              {p.free === null
                ? "never counted"
                : p.short
                  ? `${String(p.short)} short`
                  : `${String(p.free)} free`}
            </small>
          </li>
        ))}
      </ol>
    </>
  );
}
/** The lines of a kit while they are put together. */
function Lines({
  id,
  lines,
  set,
  parts,
}: {
  id: string;
  lines: Line[];
  set: (l: Line[]) => void;
  parts: Spare[];
}) {
  const [code, setCode] = useState("");
  const [n, setN] = useState("1");
  const add = () => {
    set([...lines.filter((l) => l.code !== code), { code, wanted: Number(n) }]);
    setCode("");
    setN("1");
  };
  return (
    <>
      <ul className={css.kitlines}>
        {lines.map((l) => (
          <li key={l.code}>
            <span className="mono">
              {l.wanted} × {l.code}
            </span>{" "}
            <button
              type="button"
              className="linklike"
              aria-label={`${l.code} out of the kit`}
              onClick={() => set(lines.filter((x) => x.code !== l.code))}
            >
              take out
            </button>
          </li>
        ))}
      </ul>
      <div className={css.row}>
        <div className="field">
          <label htmlFor={`${id}-part`}>Part of the kit</label>
          <select id={`${id}-part`} value={code} onChange={(e) => setCode(e.target.value)}>
            <option value="">choose</option>
            {parts.map((p) => (
              <option key={p.id} value={p.code}>
                {p.code}, {p.title}
              </option>
            ))}
          </select>
        </div>
        <Word id={`${id}-n`} label="How many in it" value={n} set={setN} numeric />
        <Act
          className="btn-line"
          waits={
            (!code && "Choose a part.") || (!/^[1-9]\d{0,2}$/.test(n) && "Enter how many, as a whole number.")
          }
          onClick={add}
        >
          Add line
        </Act>
      </div>
    </>
  );
}
function Change({ kit, parts }: { kit: Kit; parts: Spare[] }) {
  const id = `kit${String(kit.id)}`;
  const form = useSmallForm(`${id}:${String(kit.version)}`, {
    title: kit.title,
    lines: kit.parts.map((p) => ({ code: p.code, wanted: p.wanted })),
  });
  return (
    <details>
      <summary>Change kit</summary>
      <Word id={`${id}-title`} label="Kit" value={form.v.title} set={(title) => form.set({ title })} />
      <Lines id={id} lines={form.v.lines} set={(lines) => form.set({ lines })} parts={parts} />
      <p className="rowflex">
        <Act
          waits={
            (form.busy && SENDING) ||
            (!form.v.title.trim() && "Enter its name.") ||
            (form.v.lines.length === 0 && "A kit has at least one part.")
          }
          onClick={() =>
            void form.send(
              "PUT",
              address("/api/v1/kits/{kit_id}", { kit_id: kit.id }),
              { expected_version: kit.version, title: form.v.title.trim(), lines: form.v.lines },
              `${kit.title}, kit`,
            )
          }
        >
          Save kit
        </Act>
        <Act
          className="btn-line"
          waits={form.busy && SENDING}
          onClick={() =>
            void form.send(
              "DELETE",
              address("/api/v1/kits/{kit_id}", { kit_id: kit.id }),
              undefined,
              `${kit.title}, taken apart`,
            )
          }
        >
          Take kit apart
        </Act>
      </p>
      <Complaint error={form.error} />
    </details>
  );
}
function NewKit({ site, parts, over }: { site: number; parts: Spare[]; over: () => void }) {
  const own = useGet("/api/v1/sites/{site_id}/procedures", { site_id: site }).data?.procedures ?? [];
  const sets = usePlant(site).data?.services.flatMap((s) => s.sets) ?? [];
  const form = useSmallForm("newkit", { title: "", procedure: "", set: "", lines: [] as Line[] });
  const client = useQueryClient();
  const { v } = form;
  const send = async () => {
    const kept = await form.send(
      "POST",
      address("/api/v1/sites/{site_id}/kits", { site_id: site }),
      {
        title: v.title.trim(),
        procedure: v.procedure,
        set_id: v.set ? Number(v.set) : null,
        kind: "",
        lines: v.lines,
      },
      `${v.title}, kit`,
    );
    if (!kept) return;
    // A kit of a set stands on the shelves of its site.
    await renew(client, { site });
    over();
  };
  return (
    <div className={css.newkit}>
      <div className={css.row}>
        <Word id="kit-title" label="Kit" value={v.title} set={(title) => form.set({ title })} />
        <div className="field">
          <label htmlFor="kit-procedure">Job</label>
          <select
            id="kit-procedure"
            value={v.procedure}
            onChange={(e) => form.set({ procedure: e.target.value })}
          >
            <option value="">choose</option>
            {own.map((p) => (
              <option key={p.id} value={p.id}>
                {p.id} {p.title}
              </option>
            ))}
          </select>
        </div>
        <div className="field">
          <label htmlFor="kit-set">Of set</label>
          <select id="kit-set" value={v.set} onChange={(e) => form.set({ set: e.target.value })}>
            <option value="">any</option>
            {sets.map((s) => (
              <option key={s.id} value={s.id}>
                {s.tag}
              </option>
            ))}
          </select>
        </div>
      </div>
      <Lines id="newkit" lines={v.lines} set={(lines) => form.set({ lines })} parts={parts} />
      <p className="rowflex">
        <Act
          waits={
            (form.busy && SENDING) ||
            (!v.title.trim() && "Enter its name.") ||
            (!v.procedure && "Choose the job.") ||
            (v.lines.length === 0 && "Add a part.")
          }
          onClick={() => void send()}
        >
          Save new kit
        </Act>
        <button type="button" className="linklike" onClick={over}>
          Cancel
        </button>
      </p>
      <Complaint error={form.error} />
    </div>
  );
}
