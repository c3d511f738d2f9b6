/** The set's own circuit, edited on its drawing: an element is tapped, and renamed, removed, added to or tapped off. */
import { useState } from "react";
import {
  Act,
  address,
  ApiError,
  Complaint,
  dayTime,
  FigureInput,
  Ready,
  SENDING,
  Spot,
  useGet,
  useMe,
  useNarrow,
  useSmallForm,
  type Schemas,
} from "../../base";
import { Stale } from "../Stale";
import type { SetOut } from "../../plant";
import {
  added,
  BETWEEN,
  bypassable,
  bypassed,
  choicesOf,
  closing,
  deltaOf,
  deltaOnto,
  EARTHING,
  everyOf,
  isEnd,
  isSwitched,
  positionsOf,
  removed,
  renamed,
  tapped,
  untapped,
  viewOf,
  withLeads,
  type Circuit,
  type Made,
} from "./edited";
import { Ladder } from "./Ladder";
import { elementOf, layoutOf, stageWidth, type Layout } from "./layout";
import { wordOf } from "./positions";
import css from "./drawing.module.scss";

type Out = Schemas["CircuitOut"];
interface Props {
  set: SetOut;
  zone: string;
  onDone: () => void;
}
export function Editor({ set, zone, onDone }: Props) {
  const told = useGet("/api/v1/sets/{set_id}/circuit", { set_id: set.id });
  return (
    <Ready query={told} what="Loading circuit">
      {(got) => <Editing set={set} zone={zone} onDone={onDone} got={got} />}
    </Ready>
  );
}
interface Form {
  circuit: Circuit;
  volts: string;
  version: number;
}
function Editing({ set, zone, onDone, got }: Props & { got: Out }) {
  const narrow = useNarrow();
  const { locale } = useMe();
  const form = useSmallForm<Form>(`${set.id}:circuit-edit`, {
    circuit: got.circuit,
    volts: String(got.circuit.supply.volts),
    version: got.version,
  });
  const { circuit } = form.v;
  const [chosen, setChosen] = useState("");
  const [wrong, setWrong] = useState("");
  const put = (next: Circuit) => form.set({ circuit: next });
  const view = viewOf(circuit);
  const width = stageWidth(narrow, view.paths.length);
  const layout = layoutOf(view.rungs, view.legs.length, width, { paths: view.paths });
  const { error } = form;
  const stale =
    error instanceof ApiError && error.code === "stale"
      ? (error.current as { circuit: Circuit | null; version: number } | null)
      : null;
  const save = async () => {
    const volts = Number(form.v.volts.replace(",", "."));
    const kept = await form.send(
      "PUT",
      address("/api/v1/sets/{set_id}/circuit", { set_id: set.id }),
      {
        circuit: { ...circuit, supply: { ...circuit.supply, volts } },
        expected_version: form.v.version,
      },
      `${set.tag} circuit`,
    );
    if (kept) onDone();
  };
  const bring = async (file: File | undefined) => {
    if (!file) return;
    try {
      const read = JSON.parse(await file.text()) as Circuit;
      if (!Array.isArray(read.elements) || typeof read.supply?.volts !== "number") throw new Error("shape");
      form.set({ circuit: read, volts: String(read.supply.volts) });
      setWrong("");
    } catch {
      setWrong(`${file.name} is not a circuit as it is exported here.`);
    }
  };
  return (
    <div className={css.bench}>
      <Spot className={css.stage} at={{ width: layout.width, height: layout.height }}>
        <Ladder view={view} layout={layout} label={`Circuit of ${set.tag}, edited`} chosen={chosen} />
        <Choices elements={everyOf(circuit)} layout={layout} chosen={chosen} onChoose={setChosen} />
      </Spot>
      <div>
        <p className="mute">
          {got.version
            ? `Confirmed by ${got.by}, ${dayTime(got.at ?? "", zone, locale)}.`
            : "The usual circuit for this starter: confirm it as drawn, or change it first."}{" "}
          Tap an element on the drawing to change it.
        </p>
        <Supply form={form.v} usual={got.usual} onForm={form.set} />
        <Chosen circuit={circuit} id={chosen} onCircuit={put} onChoose={setChosen} />
        {stale && (
          <Stale
            onTheirs={() => {
              if (stale.circuit) put(stale.circuit);
              form.set({ version: stale.version });
            }}
            onMine={() => form.set({ version: stale.version })}
          />
        )}
        <Complaint error={form.error} />
        {wrong && <p className="notice bad">{wrong}</p>}
        <div className="savebar">
          <a className="linklike" href={`/api/v1/sets/${set.id}/circuit.json`}>
            Export JSON
          </a>
          <label className="linklike">
            Import JSON
            <input
              type="file"
              className="visually-hidden"
              accept="application/json,.json"
              onChange={(e) => void bring(e.target.files?.[0])}
            />
          </label>
          <button
            className="btn-line"
            onClick={() => {
              form.drop();
              onDone();
            }}
          >
            Cancel
          </button>
          <Act className="btn-ink" waits={form.busy && SENDING} onClick={() => void save()}>
            {got.version ? "Save circuit" : "Confirm circuit"}
          </Act>
        </div>
      </div>
    </div>
  );
}
/** Each element's name on the drawing can be tapped. */
function Choices({
  elements,
  layout,
  chosen,
  onChoose,
}: {
  elements: readonly Made[];
  layout: Layout;
  chosen: string;
  onChoose: (id: string) => void;
}) {
  return elements.map((e) => {
    const own = [...layout.rungs].filter(([id]) => elementOf(id) === e.id);
    const ys = own.map(([, y]) => y);
    const top = Math.min(...ys) - (ys.length > 1 ? 2 : 22);
    const beside = !layout.stacked && layout.paths.length > 0;
    const run = layout.runOf(own[0]?.[0] ?? "");
    const left = beside && run ? layout.columns[run]![0]! - 20 : 0;
    const right = beside && !run ? layout.legs.at(-1)! + 20 : layout.width;
    return (
      <Spot key={e.id} className={css.choice} at={{ left, top, width: right - left, height: 46 }}>
        <button
          type="button"
          aria-pressed={chosen === e.id}
          aria-label={e.name || e.id}
          onClick={() => onChoose(chosen === e.id ? "" : e.id)}
        />
      </Spot>
    );
  });
}
function Supply({
  form,
  usual,
  onForm,
}: {
  form: Form;
  usual: Out["usual"];
  onForm: (next: Partial<Form>) => void;
}) {
  const { circuit } = form;
  const supply = (more: Partial<Circuit["supply"]>) =>
    onForm({ circuit: { ...circuit, supply: { ...circuit.supply, ...more } } });
  const kind = usual.find((k) => k.id === circuit.kind);
  return (
    <>
      <p className="statesentence">
        <select
          className="inline-select"
          aria-label="Type of circuit"
          value={circuit.kind ?? ""}
          onChange={(e) => {
            const next = usual.find((k) => k.id === e.target.value);
            // Another starter, the same control ladder.
            if (next)
              onForm({
                circuit: { ...next.circuit, control: circuit.control ?? null },
                volts: String(next.circuit.supply.volts),
              });
          }}
        >
          {usual.map((k) => (
            <option key={k.id} value={k.id}>
              {k.title}
            </option>
          ))}
        </select>
        ,{" "}
        <FigureInput
          id="f-supply"
          label="Supply voltage between legs"
          className="inline-input mono short"
          digits
          value={{ text: form.volts, unit: "V" }}
          unit="V"
          onChange={(next) => onForm({ volts: next?.text ?? "" })}
        />{" "}
        V, earthing{" "}
        <select
          className="inline-select"
          aria-label="Earthing of the supply"
          value={circuit.supply.earthing}
          onChange={(e) => supply({ earthing: e.target.value as Circuit["supply"]["earthing"] & string })}
        >
          {EARTHING[circuit.conductors ?? 3].map(([k, words]) => (
            <option key={k} value={k}>
              {words}
            </option>
          ))}
        </select>
        .
      </p>
      {circuit.kind === "board_relay" && (
        <p className="statesentence">
          Pumps on this fuse{" "}
          <FigureInput
            id="f-shared"
            label="Pumps on this fuse"
            className="inline-input mono short"
            digits
            value={{ text: String(circuit.shared_by ?? 1), unit: "" }}
            unit=""
            onChange={(next) =>
              onForm({ circuit: { ...circuit, shared_by: Math.max(1, Number(next?.text) || 1) } })
            }
          />
        </p>
      )}
      <label className="confirm">
        <input
          type="checkbox"
          checked={circuit.taps_known ?? false}
          onChange={(e) => onForm({ circuit: { ...circuit, taps_known: e.target.checked } })}
        />
        Nothing else is tapped off beneath the fuses than what is drawn
      </label>
      {kind?.below && <p className="mute">{kind.below}</p>}
    </>
  );
}
const PAIRS: [1 | 2 | 3, 1 | 2 | 3][] = [
  [1, 2],
  [2, 3],
  [1, 3],
];
const WHAT = {
  control_transformer: "Control transformer",
  heater: "Anti-condensation heater",
  second_set: "Another set",
} as const;

function Chosen({
  circuit,
  id,
  onCircuit,
  onChoose,
}: {
  circuit: Circuit;
  id: string;
  onCircuit: (next: Circuit) => void;
  onChoose: (id: string) => void;
}) {
  const e = everyOf(circuit).find((x) => x.id === id);
  if (!e) return null;
  // Beneath what a run ends at, and beneath windings or electronics, nothing is added or tapped off.
  const last = e.joins || (isEnd(e) && e.kind !== "source");
  const kept = isEnd(e) || e.joins || deltaOf(circuit)?.elements.every((x) => x.id === id);
  const pairs = circuit.conductors === 2 ? PAIRS.slice(0, 1) : PAIRS;
  return (
    <section className="ruled" aria-labelledby="chosen-title">
      <h2 id="chosen-title" className={css.head}>
        {e.name || e.id}
      </h2>
      <div className="field">
        <label htmlFor="element-name">Name</label>
        <input
          id="element-name"
          maxLength={40}
          value={e.name ?? ""}
          onChange={(event) => onCircuit(renamed(circuit, id, event.target.value))}
        />
      </div>
      {!last && (
        <p className={css.adding} role="group" aria-label="Add beneath">
          <span className="mute">Add beneath:</span>
          {BETWEEN.map(([kind, words]) => (
            <button
              key={kind}
              className="linklike"
              onClick={() => {
                const [next, made] = added(circuit, id, kind, words);
                onCircuit(next);
                onChoose(made);
              }}
            >
              {words}
            </button>
          ))}
        </p>
      )}
      {!last && (
        <p className={css.adding} role="group" aria-label="Tapped off beneath">
          <span className="mute">Tapped off beneath:</span>
          {(e.taps ?? []).map((t) => (
            <span key={t.id}>
              {WHAT[t.what]}
              {t.what === "second_set" ? "" : `, L${t.legs[0]}-L${t.legs[1]}`}{" "}
              <button className="linklike" onClick={() => onCircuit(untapped(circuit, id, t.id))}>
                Remove
              </button>
            </span>
          ))}
          {!(e.taps ?? []).some((t) => t.what === "second_set") && (
            <button className="linklike" onClick={() => onCircuit(tapped(circuit, id, "second_set", [1, 2]))}>
              Another set on the same fuses
            </button>
          )}
          {pairs.flatMap((legs) =>
            (["control_transformer", "heater"] as const).map((what) => (
              <button
                key={what + legs.join("-")}
                className="linklike"
                onClick={() => onCircuit(tapped(circuit, id, what, legs))}
              >
                {WHAT[what]} on L{legs[0]}-L{legs[1]}
              </button>
            )),
          )}
        </p>
      )}
      <Leads e={e} circuit={circuit} onCircuit={onCircuit} />
      <Closes e={e} circuit={circuit} onCircuit={onCircuit} />
      {bypassable(circuit, id) && (
        <button className="btn-line" onClick={() => onCircuit(bypassed(circuit, id))}>
          Add bypass contactor
        </button>
      )}
      {!kept && (
        <button
          className="btn-line"
          onClick={() => {
            onCircuit(removed(circuit, id));
            onChoose("");
          }}
        >
          Remove {e.name || e.id}
        </button>
      )}
    </section>
  );
}
interface Part {
  e: Made;
  circuit: Circuit;
  onCircuit: (next: Circuit) => void;
}
const DELTA: [[1 | 2 | 3, 1 | 2 | 3, 1 | 2 | 3], string][] = [
  [[3, 1, 2], "L1 to W2, L2 to U2, L3 to V2"],
  [[2, 3, 1], "L1 to V2, L2 to W2, L3 to U2"],
];
/** How many leads a motor has; of six, how its delta contactor joins them. */
function Leads({ e, circuit, onCircuit }: Part) {
  const delta = deltaOf(circuit);
  if (e.kind !== "motor" || circuit.conductors === 2) return null;
  return (
    <p className="statesentence">
      Leads{" "}
      <select
        className="inline-select"
        aria-label="Leads of the motor"
        value={e.leads ?? 3}
        onChange={(event) => onCircuit(withLeads(circuit, event.target.value === "6" ? 6 : 3))}
      >
        <option value={3}>three</option>
        <option value={6}>six, star-delta</option>
      </select>
      {delta && (
        <>
          , in delta{" "}
          <select
            className="inline-select"
            aria-label="Delta joins"
            value={String(delta.onto)}
            onChange={(event) =>
              onCircuit(deltaOnto(circuit, DELTA.find(([o]) => String(o) === event.target.value)![0]))
            }
          >
            {DELTA.map(([onto, words]) => (
              <option key={words} value={String(onto)}>
                {words}
              </option>
            ))}
          </select>
        </>
      )}
    </p>
  );
}
/** In which positions of its starter a contactor is in. */
function Closes({ e, circuit, onCircuit }: Part) {
  const choices = choicesOf(circuit);
  if (!isSwitched(e) || choices.length === 0) return null;
  const closes = e.closes ?? [];
  const all = closes.length === 0;
  const among = ["out", ...choices, ...positionsOf(circuit)];
  return (
    <p className={css.adding} role="group" aria-label="Closed when the starter is">
      <span className="mute">Closed with:</span>
      {choices.map((p) => {
        const on = all || closes.includes(p);
        const next = on ? (all ? choices : closes).filter((x) => x !== p) : [...closes, p];
        return (
          <label key={p} className="confirm">
            <input
              type="checkbox"
              checked={on}
              // A contactor that is in with nothing is none of this circuit.
              disabled={on && next.length === 0}
              onChange={() => onCircuit(closing(circuit, e.id, next.length === choices.length ? [] : next))}
            />{" "}
            {wordOf(p, among)}
          </label>
        );
      })}
    </p>
  );
}
