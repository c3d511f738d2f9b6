/** One loop described: figures as a schema names them, its liquid and pipe, the sets on it. */
import { useState } from "react";
import {
  Act,
  address,
  Complaint,
  enteredFields,
  FigureField,
  problemOf,
  Ready,
  SENDING,
  useMe,
  useSchema,
  useSmallForm,
  useSymbols,
  type Entered,
  type Schemas,
} from "../../base";
import { useRegister } from "../../plant";
import css from "./loops.module.scss";

type Loop = Schemas["LoopOut"];
type Plate = Record<string, unknown>;
interface Typed {
  name: string;
  plate: Plate;
  sets: number[];
}
const CHOICES: [string, string, [string, string][]][] = [
  [
    "fluid",
    "Liquid",
    [
      ["water", "water"],
      ["propylene", "propylene glycol"],
      ["ethylene", "ethylene glycol"],
    ],
  ],
  [
    "glycol_by",
    "Percent by",
    [
      ["mass", "mass"],
      ["volume", "volume"],
    ],
  ],
  [
    "pipe",
    "Pipe",
    [
      ["steel", "steel"],
      ["copper", "copper"],
      ["plastic", "plastic"],
    ],
  ],
  [
    "vessel_at",
    "Vessel joins",
    [
      ["suction", "on the suction side"],
      ["discharge", "on the discharge side"],
    ],
  ],
];
interface Props {
  site: number;
  loop: Loop | null;
  done: () => void;
}
export function LoopForm(props: Props) {
  const schema = useSchema("/api/v1/loops/schema");
  return <Ready query={schema}>{(s) => <Described {...props} schema={s} />}</Ready>;
}
function Described({ site, loop, done, schema }: Props & { schema: unknown }) {
  const me = useMe();
  const symbols = useSymbols();
  const register = useRegister(site);
  const rules = enteredFields(schema);
  const [start] = useState<Typed>(() => ({
    name: loop?.name ?? "",
    plate: (loop?.plate ?? {}) as Plate,
    sets: [...(loop?.set_ids ?? [])],
  }));
  const form = useSmallForm<Typed>(`loop:${String(site)}:${String(loop?.id ?? "new")}`, start);
  const { v, set } = form;
  const put = (name: string, value: unknown) => set({ plate: { ...v.plate, [name]: value || null } });
  const said = Object.entries(v.plate).filter(([, x]) => x !== null && x !== "");
  const sent = { note: "", ...Object.fromEntries(said) } as Loop["plate"];
  const save = async () => {
    const body = { name: v.name, plate: sent, set_ids: v.sets, expected_version: loop?.version ?? 0 };
    const path = loop
      ? address("/api/v1/sites/{site_id}/loops/{loop_id}", { site_id: site, loop_id: loop.id })
      : address("/api/v1/sites/{site_id}/loops", { site_id: site });
    if ((await form.send(loop ? "PUT" : "POST", path, body, "a loop")) !== null) done();
  };
  return (
    <form
      className={css.form}
      aria-label={loop ? `Loop ${loop.name}` : "New loop"}
      onSubmit={(e) => {
        e.preventDefault();
        void save();
      }}
    >
      <div className="field">
        <label htmlFor="loop-name">Name</label>
        <input id="loop-name" maxLength={60} value={v.name} onChange={(e) => set({ name: e.target.value })} />
      </div>
      <div className={css.grid}>
        {Object.entries(rules).map(([name, rule]) => (
          <FigureField
            key={name}
            rule={rule}
            value={v.plate[name] as Entered | null}
            preferred={me.units[rule.dimension]}
            symbols={symbols}
            problem={problemOf(form.error, name)}
            onChange={(x) => put(name, x)}
          />
        ))}
        {CHOICES.map(([name, label, options]) => (
          <div key={name} className="field">
            <label htmlFor={`loop-${name}`}>{label}</label>
            <select
              id={`loop-${name}`}
              value={(v.plate[name] as string | null) ?? ""}
              onChange={(e) => put(name, e.target.value)}
            >
              <option value="">not entered</option>
              {options.map(([id, words]) => (
                <option key={id} value={id}>
                  {words}
                </option>
              ))}
            </select>
          </div>
        ))}
      </div>
      <fieldset className={css.sets}>
        <legend>Sets on it</legend>
        {(register.data?.sets ?? []).map((s) => (
          <label key={s.id} className="confirm">
            <input
              type="checkbox"
              checked={v.sets.includes(s.id)}
              onChange={(e) =>
                set({ sets: e.target.checked ? [...v.sets, s.id] : v.sets.filter((x) => x !== s.id) })
              }
            />{" "}
            <span className="mono">{s.tag}</span>
          </label>
        ))}
      </fieldset>
      <Complaint error={form.error} />
      <div className="savebar">
        <button type="button" className="btn-line" onClick={done}>
          Cancel
        </button>
        <Act className="btn-ink" type="submit" waits={form.busy && SENDING}>
          Save loop
        </Act>
      </div>
    </form>
  );
}
