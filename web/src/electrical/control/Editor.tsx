/** A set's control ladder while it is edited: what stands in it, in which order, with its set points. */
import {
  Act,
  address,
  ApiError,
  Complaint,
  Ready,
  SENDING,
  useGet,
  useSmallForm,
  type Schemas,
} from "../../base";
import { Stale } from "../Stale";
import type { SetOut } from "../../plant";
import { Drawn, ROW } from "./Rail";
import { addedBelow, ELEMENTS, type Control, type Made } from "./sheet";
import css from "./drawing.module.scss";

type Out = Schemas["CircuitOut"];
interface Props {
  set: SetOut;
  onDone: () => void;
}
export function Editor({ set, onDone }: Props) {
  const told = useGet("/api/v1/sets/{set_id}/circuit", { set_id: set.id });
  return (
    <Ready query={told} what="Loading circuit">
      {(got) => <Editing set={set} onDone={onDone} got={got} />}
    </Ready>
  );
}
interface Form {
  control: Control;
  volts: string;
  version: number;
}
const number = (text: string): number | null =>
  text.trim() === "" || Number.isNaN(Number(text.replace(",", "."))) ? null : Number(text.replace(",", "."));

function Editing({ set, onDone, got }: Props & { got: Out }) {
  const start = got.circuit.control ?? got.usual_control;
  const form = useSmallForm<Form>(`${set.id}:control-edit`, {
    control: start,
    volts: String(start.volts),
    version: got.version,
  });
  const { control } = form.v;
  const put = (elements: Made[]) => form.set({ control: { ...control, elements } });
  const one = (i: number, more: Partial<Made>) =>
    put(control.elements.map((e, n) => (n === i ? { ...e, ...more } : e)));
  const { error } = form;
  const stale =
    error instanceof ApiError && error.code === "stale"
      ? (error.current as { circuit: Out["circuit"] | null; version: number } | null)
      : null;
  const save = async () => {
    const circuit = { ...got.circuit, control: { ...control, volts: number(form.v.volts) ?? 0 } };
    const kept = await form.send(
      "PUT",
      address("/api/v1/sets/{set_id}/circuit", { set_id: set.id }),
      { circuit, expected_version: form.v.version },
      `${set.tag} control circuit`,
    );
    if (kept) onDone();
  };
  return (
    <div>
      <p className="statesentence">
        Control voltage{" "}
        <input
          className="inline-input mono short"
          aria-label="Control voltage"
          inputMode="decimal"
          value={form.v.volts}
          onChange={(e) => form.set({ volts: e.target.value })}
        />{" "}
        V, from the source down:
      </p>
      <ol className={css.edited}>
        {control.elements.map((e, i) => (
          <li key={e.id}>
            <svg viewBox={`0 0 70 ${ROW}`} width={70} height={ROW} aria-hidden="true">
              <Drawn element={{ kind: e.kind, share: 0, bypassed: false }} top={0} />
            </svg>
            <input
              aria-label={`Name of ${e.id}`}
              value={e.name ?? ""}
              onChange={(x) => one(i, { name: x.target.value })}
            />
            {e.kind === "interlock" && <SetPoint element={e} say={(more) => one(i, more)} />}
            <span className={css.acts}>
              {i > 0 && (
                <button className="linklike" onClick={() => put(moved(control.elements, i))}>
                  Move up
                </button>
              )}
              {e.kind !== "coil" && (
                <button className="linklike" onClick={() => put(control.elements.filter((_, n) => n !== i))}>
                  Remove
                </button>
              )}
              <select
                className="inline-select"
                aria-label={`Add beneath ${e.name || e.id}`}
                value=""
                onChange={(x) =>
                  form.set({ control: addedBelow(control, i, x.target.value as Made["kind"]) })
                }
              >
                <option value="">add beneath …</option>
                {ELEMENTS.map(([k, words]) => (
                  <option key={k} value={k}>
                    {words}
                  </option>
                ))}
              </select>
            </span>
          </li>
        ))}
      </ol>
      {stale && (
        <Stale
          onTheirs={() =>
            form.set({
              version: stale.version,
              ...(stale.circuit?.control ? { control: stale.circuit.control } : {}),
            })
          }
          onMine={() => form.set({ version: stale.version })}
        />
      )}
      <Complaint error={error} />
      <div className="savebar">
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
          {got.circuit.control ? "Save control circuit" : "Confirm control circuit"}
        </Act>
      </div>
    </div>
  );
}
const moved = (elements: readonly Made[], i: number): Made[] => {
  const next = [...elements];
  [next[i - 1], next[i]] = [next[i]!, next[i - 1]!];
  return next;
};
function SetPoint({ element: e, say }: { element: Made; say: (more: Partial<Made>) => void }) {
  return (
    <span className={css.setpoint}>
      <label className="confirm">
        <input
          type="checkbox"
          checked={e.auto_only ?? false}
          onChange={(x) => say({ auto_only: x.target.checked })}
        />{" "}
        bypassed in hand
      </label>
      opens
      <select
        className="inline-select"
        aria-label={`${e.name}, opens`}
        value={e.opens ?? ""}
        onChange={(x) => say({ opens: x.target.value as Made["opens"] & string })}
      >
        <option value="">not entered</option>
        <option value="below">below</option>
        <option value="above">above</option>
      </select>
      <input
        className="inline-input mono short"
        aria-label={`${e.name}, set point`}
        defaultValue={e.set_point ?? ""}
        onChange={(x) => say({ set_point: number(x.target.value) })}
      />
      <input
        className="inline-input short"
        aria-label={`${e.name}, unit`}
        maxLength={12}
        placeholder="unit"
        value={e.unit ?? ""}
        onChange={(x) => say({ unit: x.target.value })}
      />
      ±
      <input
        className="inline-input mono short"
        aria-label={`${e.name}, band`}
        defaultValue={e.band ?? 0}
        onChange={(x) => say({ band: Math.max(0, number(x.target.value) ?? 0) })}
      />
    </span>
  );
}
