/** Standing pressures, one a row: when, pressure, the loop's own temperature, and how it stood. */
import type { EntryBody } from "../../base";
import { useSession } from "../../base";
import { NamedFigure, useTools } from "../../safety";
import { rowsOf, without, type Row } from "../rows";
import css from "../water.module.scss";

type Body = EntryBody<"loop">;
const STOOD = { pump: "standing", hose: "off", make_up: "shut" };
const WORDS: [string, [string, string][]][] = [
  [
    "pump",
    [
      ["standing", "pump standing"],
      ["running", "pump running"],
    ],
  ],
  [
    "hose",
    [
      ["off", "hose off"],
      ["on", "hose on"],
    ],
  ],
  [
    "make_up",
    [
      ["shut", "make-up shut"],
      ["open", "make-up open"],
    ],
  ],
];
interface Props {
  body: Body;
  say: (more: Partial<Body>) => void;
  row: (list: string, at: number, more: Row) => void;
  left: readonly string[];
}
export function Readings({ body, say, row, left }: Props) {
  const { may } = useTools();
  const { now } = useSession();
  const rows = rowsOf(body, "readings");
  const add = (more: Row = {}) =>
    say({ readings: [...rows, { at: now().toISOString(), ...more }] } as Partial<Body>);
  return (
    <section aria-label="Pressures">
      <ol className={css.rows}>
        {rows.map((r, i) => (
          <li key={i} data-reading={i}>
            <div className={css.row}>
              <span className="dimfield">
                <label htmlFor={`at-${String(i)}`}>when</label>
                <input
                  id={`at-${String(i)}`}
                  type="datetime-local"
                  readOnly={!may}
                  value={localOf(r.at as string | undefined)}
                  onChange={(e) =>
                    row("readings", i, { at: e.target.value ? new Date(e.target.value).toISOString() : null })
                  }
                />
              </span>
              <NamedFigure name={`readings.${String(i)}.pressure`} label="pressure" />
              <NamedFigure name={`readings.${String(i)}.temperature`} label="loop temperature" />
            </div>
            <p className="statesentence">
              {WORDS.map(([name, words]) => (
                <select
                  key={name}
                  className="inline-select"
                  aria-label={`${words[0]?.[1].split(" ")[0] ?? name}, row ${String(i + 1)}`}
                  disabled={!may}
                  value={(r[name] as string | null | undefined) ?? ""}
                  onChange={(e) => row("readings", i, { [name]: e.target.value || null })}
                >
                  <option value="">{name.replace("_", "-")}?</option>
                  {words.map(([v, w]) => (
                    <option key={v} value={v}>
                      {w}
                    </option>
                  ))}
                </select>
              ))}{" "}
              {may && (
                <button
                  type="button"
                  className="linklike"
                  onClick={() => say({ readings: without(body, "readings", i) } as Partial<Body>)}
                >
                  Remove
                </button>
              )}
            </p>
          </li>
        ))}
      </ol>
      {may && (
        <p className="rowflex">
          <button type="button" className="btn-line" onClick={() => add(STOOD)}>
            Add reading: standing, hose off, make-up shut
          </button>
          <button type="button" className="linklike" onClick={() => add()}>
            in another state
          </button>
        </p>
      )}
      {left.map((l) => (
        <p key={l} className="mute" data-left-out>
          {l}
        </p>
      ))}
    </section>
  );
}
/** A moment as the field for it wants it, on this device's clock. */
function localOf(iso: string | undefined): string {
  if (!iso) return "";
  const at = new Date(iso);
  return new Date(at.getTime() - at.getTimezoneOffset() * 60000).toISOString().slice(0, 16);
}
