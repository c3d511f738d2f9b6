/** A plate as it is stamped: fields where a maker puts them, edited in place, with the reason for the change. */
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import {
  Act,
  SENDING,
  address,
  ApiError,
  Complaint,
  enteredFields,
  FigureField,
  outbox,
  problemOf,
  Ready,
  renew,
  small,
  useDraft,
  useMe,
  useSchema,
  useSymbols,
  type Entered,
} from "../../base";
import type { Component } from "../queries";
import css from "../plant.module.scss";

type Values = Record<string, unknown>;
interface Choice {
  name: string;
  label: string;
  options: [string, string][];
}
const FUSE_CLASSES: [string, string][] = [
  ["", "—"],
  ["J", "J"],
  ["RK1", "RK1"],
  ["RK5", "RK5"],
  ["CC", "CC"],
  ["T", "T"],
  ["H", "H or K"],
  ["gG", "gG"],
  ["aM", "aM"],
  ["aR", "aR or gR"],
];
const FUSE_DELAYS: [string, string][] = [
  ["", "—"],
  ["delay", "time-delay"],
  ["fast", "fast-acting"],
];
const CHOICES: Record<string, Choice[]> = {
  motor: [
    {
      name: "phases",
      label: "Phases",
      options: [
        ["3", "three"],
        ["1", "single"],
      ],
    },
    {
      name: "connection",
      label: "Connection in use",
      options: [
        ["single", "one voltage"],
        ["low", "dual, low in use"],
        ["high", "dual, high in use"],
      ],
    },
    {
      name: "insulation_class",
      label: "Insulation class",
      options: [
        ["", "—"],
        ["A", "A"],
        ["B", "B"],
        ["F", "F"],
        ["H", "H"],
      ],
    },
    {
      name: "cooling",
      label: "Cooled by",
      options: [
        ["", "not entered"],
        ["own_fan", "its own fan"],
        ["separate", "a separate fan"],
        ["pumped_water", "the pumped water"],
      ],
    },
    {
      name: "winding",
      label: "Winding",
      options: [
        ["", "not entered"],
        ["random", "random-wound"],
        ["form", "form-wound"],
      ],
    },
  ],
  control: [
    {
      name: "trip_class",
      label: "Trip class",
      options: [
        ["", "—"],
        ["10A", "10A"],
        ["10", "10"],
        ["20", "20"],
        ["30", "30"],
      ],
    },
    { name: "fuse_class", label: "Fuse class, per drawing", options: FUSE_CLASSES },
    { name: "fuse_delay", label: "Fuse delay, per drawing", options: FUSE_DELAYS },
  ],
  pump: [
    {
      name: "type",
      label: "Pump type",
      options: [
        ["", "not entered"],
        ["radial", "radial"],
        ["mixed", "mixed flow"],
        ["axial", "axial"],
        ["vortex", "vortex"],
        ["regenerative", "regenerative"],
        ["displacement", "displacement"],
      ],
    },
  ],
  fuses: [
    { name: "fuse_class", label: "Class", options: FUSE_CLASSES },
    { name: "fuse_delay", label: "Delay", options: FUSE_DELAYS },
    {
      name: "clip",
      label: "Clips",
      options: [
        ["", "—"],
        ["spring", "spring clips"],
        ["rejecting", "clips that reject another class"],
        ["bolted", "bolted"],
        ["carrier", "fuse carrier"],
      ],
    },
  ],
};
const WORDS: Record<string, [string, string][]> = {
  motor: [
    ["frame", "Frame"],
    ["serial", "Serial number"],
    ["note", "Note"],
  ],
  control: [["note", "Note"]],
  fuses: [["note", "Note"]],
  pump: [
    ["serial", "Serial number"],
    ["note", "Note"],
  ],
  part: [
    ["size", "Size"],
    ["material", "Material"],
    ["serial", "Serial number"],
    ["note", "Note"],
  ],
};
const WHOLE: Record<string, [string, string][]> = {
  motor: [["year", "Year built"]],
  control: [],
  fuses: [],
  pump: [["stages", "Stages"]],
  part: [],
};
const MOTOR_ORDER = [
  "power",
  "speed",
  "frequency",
  "volts_low",
  "amps_low",
  "service_factor",
  "sf_amps_low",
  "volts_high",
  "amps_high",
  "sf_amps_high",
  "max_ambient",
];

function familyOf(kind: string): string {
  if (kind === "motor") return "motor";
  if (["starter", "soft_starter", "drive"].includes(kind)) return "control";
  if (kind === "fuses") return "fuses";
  return ["wet_end", "rotor"].includes(kind) ? "pump" : "part";
}

export function PlateForm({ component, done }: { component: Component; done: () => void }) {
  const schema = useSchema(`/api/v1/plates/${component.kind}/schema`);
  return <Ready query={schema}>{(s) => <Stamped component={component} schema={s} done={done} />}</Ready>;
}

function Stamped({
  component: c,
  schema,
  done,
}: {
  component: Component;
  schema: unknown;
  done: () => void;
}) {
  const me = useMe();
  const symbols = useSymbols();
  const client = useQueryClient();
  const family = familyOf(c.kind);
  const rules = enteredFields(schema);
  const [start] = useState({
    plate: c.plate as Values,
    version: c.plate_version,
    reason: c.plate_version ? "" : "first entry",
  });
  const draft = useDraft(`${me.username}:plate:${c.id}`, start);
  const [error, setError] = useState<unknown>(null);
  const [busy, setBusy] = useState(false);
  const { plate, version, reason } = draft.value;
  const set = (name: string, value: unknown) =>
    draft.change((d) => ({ ...d, plate: { ...d.plate, [name]: value } }));
  const stale =
    error instanceof ApiError && error.code === "stale"
      ? (error.current as { plate: Values; version: number } | null)
      : null;
  const names = (family === "motor" ? MOTOR_ORDER : Object.keys(rules)).filter(
    (n) => rules[n] && (plate.connection !== "single" || !n.endsWith("_high")),
  );
  const save = async () => {
    setBusy(true);
    setError(null);
    try {
      await outbox.write(
        "POST",
        address("/api/v1/components/{component_id}/plates", { component_id: c.id }),
        { expected_version: version, plate, reason },
        `nameplate of ${c.label}`,
      );
      draft.done(start);
      await renew(client, "anything");
      done();
    } catch (e) {
      setError(e);
      setBusy(false);
    }
  };
  return (
    <div className={css.nameplate}>
      <span className={css.rivet} />
      <span className={css.rivet} />
      <span className={css.rivet} />
      <span className={css.rivet} />
      <div className={`rowflex ${small.over}`}>
        <strong>{c.label}</strong>
        <span className="mute">nameplate {version ? `version ${version}` : "not entered yet"}</span>
      </div>
      <div className={css.namegrid}>
        {(CHOICES[family] ?? []).map((ch) => (
          <div className="field" key={ch.name}>
            <label htmlFor={`${c.id}${ch.name}`}>{ch.label}</label>
            <select
              id={`${c.id}${ch.name}`}
              value={String(plate[ch.name] ?? "")}
              onChange={(e) => set(ch.name, ch.name === "phases" ? Number(e.target.value) : e.target.value)}
            >
              {ch.options.map(([v, w]) => (
                <option key={v} value={v}>
                  {w}
                </option>
              ))}
            </select>
          </div>
        ))}
        {names.map((n) => (
          <FigureField
            key={n}
            rule={rules[n]!}
            value={plate[n] as Entered | null}
            preferred={me.units[rules[n]!.dimension]}
            symbols={symbols}
            problem={problemOf(error, n)}
            onChange={(v) => set(n, v)}
          />
        ))}
        {(WHOLE[family] ?? []).map(([n, label]) => (
          <div className="field" key={n}>
            <label htmlFor={`${c.id}${n}`}>{label}</label>
            <input
              id={`${c.id}${n}`}
              className="mono"
              inputMode="numeric"
              value={String(plate[n] ?? "")}
              onChange={(e) => set(n, e.target.value.trim() === "" ? null : e.target.value)}
            />
            {problemOf(error, n) && <span className="bad">{problemOf(error, n)}</span>}
          </div>
        ))}
        {(WORDS[family] ?? []).map(([n, label]) => (
          <div className="field" key={n}>
            <label htmlFor={`${c.id}${n}`}>{label}</label>
            <input
              id={`${c.id}${n}`}
              value={String(plate[n] ?? "")}
              onChange={(e) => set(n, e.target.value)}
            />
          </div>
        ))}
      </div>
      {family === "pump" && (
        <Curve
          id={`${c.id}curve`}
          value={String(plate.curve ?? "")}
          problem={problemOf(error, "curve")}
          set={(text) => set("curve", text)}
        />
      )}
      {family === "motor" && (
        <label className={small.ownLine}>
          <input
            type="checkbox"
            checked={Boolean(plate.sf_on_drive)}
            onChange={(e) => set("sf_on_drive", e.target.checked)}
          />{" "}
          service factor applies on a drive (per nameplate)
        </label>
      )}
      {family === "motor" && (
        <label className={small.ownLine}>
          <input
            type="checkbox"
            checked={Boolean(plate.built_in_electronics)}
            onChange={(e) => set("built_in_electronics", e.target.checked)}
          />{" "}
          motor has built-in electronics
        </label>
      )}
      <div className={`field ${small.formLine}`}>
        <label htmlFor={`${c.id}why`}>Reason for change</label>
        <input
          id={`${c.id}why`}
          value={reason}
          onChange={(e) => draft.change((d) => ({ ...d, reason: e.target.value }))}
        />
      </div>
      <Complaint error={error} />
      {stale && (
        <div className={css.beside}>
          <Side title={`Saved by someone else, version ${stale.version}`} plate={stale.plate} other={plate} />
          <Side title="Your entries" plate={plate} other={stale.plate} />
          <p className="rowflex">
            <button
              className="btn-line"
              onClick={() => {
                draft.change((d) => ({ ...d, version: stale.version }));
                setError(null);
              }}
            >
              Keep mine, replace version {stale.version}
            </button>
            <button
              className="btn-line"
              onClick={() => {
                draft.change((d) => ({
                  ...d,
                  plate: { ...blank(plate), ...stale.plate },
                  version: stale.version,
                }));
                setError(null);
              }}
            >
              Use saved version
            </button>
          </p>
        </div>
      )}
      <div className="savebar">
        <button
          className="btn-line"
          onClick={() => {
            draft.done(start);
            done();
          }}
        >
          Cancel
        </button>
        <Act className="btn-ink" waits={busy && SENDING} onClick={() => void save()}>
          Save nameplate
        </Act>
      </div>
    </div>
  );
}
/** A pump's curve as rows, typed or out of a file. */
function Curve(p: { id: string; value: string; problem: string | undefined; set: (text: string) => void }) {
  return (
    <div className={`field ${small.formLine}`}>
      <label htmlFor={p.id}>Curve, a row each: flow m³/h; head m; power kW; NPSH required m</label>
      <textarea
        id={p.id}
        className="mono"
        rows={5}
        maxLength={4000}
        placeholder={"flow l/s; head m; power kW\n0; 34; 2.9"}
        value={p.value}
        onChange={(e) => p.set(e.target.value)}
      />
      <label className="linklike">
        Take it from a CSV file
        <input
          type="file"
          accept=".csv,text/csv,text/plain"
          hidden
          onChange={(e) => {
            const file = e.target.files?.[0];
            if (file) void file.text().then((text) => p.set(text.slice(0, 4000)));
          }}
        />
      </label>
      {p.problem && (
        <span className="bad" role="alert">
          {p.problem}
        </span>
      )}
    </div>
  );
}
const blank = (plate: Values): Values =>
  Object.fromEntries(Object.keys(plate).map((k) => [k, typeof plate[k] === "object" ? null : plate[k]]));

const text = (v: unknown): string => {
  if (v == null || v === "" || v === false) return "—";
  if (typeof v === "object") return [(v as Entered).text, (v as Entered).unit].filter(Boolean).join(" ");
  return String(v);
};
function Side({ title, plate, other }: { title: string; plate: Values; other: Values }) {
  const names = [...new Set([...Object.keys(plate), ...Object.keys(other)])].filter(
    (n) => text(plate[n]) !== text(other[n]),
  );
  return (
    <div className="ruled">
      <strong>{title}</strong>
      {names.map((n) => (
        <div key={n}>
          <span className="mute">{n.replaceAll("_", " ")}</span>{" "}
          <span className="mono">{text(plate[n])}</span>
        </div>
      ))}
    </div>
  );
}
