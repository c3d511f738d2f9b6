/** Filling a loop: the steps as a rail, each branch with the speed it is purged at, the air test, the start gate. */
import type { EntryBody, Schemas } from "../../base";
import { Bench, Choose, NamedFigure, RecordEnd, Tick, useTools, Verdicts, type Given } from "../../safety";
import { rowsOf, without, type Row } from "../rows";
import { useSheet } from "../useSheet";
import css from "../water.module.scss";
import { Valves } from "./Valves";

type Body = EntryBody<"fill">;
type View = Schemas["ShownFillView"];
const HOSE = [
  ["", "hose?"],
  ["off", "hose off"],
  ["on", "hose on"],
] as const;
interface Said {
  body: Body;
  say: (more: Partial<Body>) => void;
}
export function Drawing({ given }: { given: Given }) {
  const { tools, body, say, row, view } = useSheet<"fill", View>(given, {
    figures: ["temperature", "hose", "precharge_found", "drop", "air_low", "air_high", "standing"],
    kept: ["drum"],
    also: (b) => rowsOf(b, "branches").length > 0 || rowsOf(b, "done").length > 0,
    lists: { branches: ["bore", "length", "flow", "minutes"], pipes: ["bore", "length"] },
  });
  const said = { body, say };
  return (
    <Bench tools={tools}>
      <p className="statesentence">
        {view?.name ? `Loop ${view.name}` : "No loop of the register"}
        {view?.volume && `, ${view.volume.shown}`}
        {view?.least && `, standing at least ${view.least.shown}`}
        {view?.fills_in && `; full in ${view.fills_in.shown}`}.
      </p>
      <div className={css.bench}>
        <div>
          {view && <Valves view={view} />}
          <Steps view={view} {...said} />
        </div>
        <div>
          <Water view={view} />
          <Branches view={view} body={body} say={say} row={row} />
          <AirTest view={view} />
          <Start {...said} />
          <Verdicts />
          <Pipe body={body} view={view} />
          <RecordEnd />
        </div>
      </div>
    </Bench>
  );
}
function Steps({ view, body, say }: Said & { view: View | null }) {
  const { may } = useTools();
  const done = body.done ?? [];
  const tick = (id: string, on: boolean) => say({ done: on ? [...done, id] : done.filter((d) => d !== id) });
  return (
    <ol className={css.steps}>
      {view?.steps.map((s) => (
        <li key={s.id} data-state={s.state} data-step={s.id}>
          {s.caution && s.state !== "done" && <p className="notice">{s.caution}</p>}
          <label className="confirm">
            <input
              type="checkbox"
              disabled={!may}
              checked={done.includes(s.id)}
              onChange={(e) => tick(s.id, e.target.checked)}
            />{" "}
            {s.title}
          </label>
          <p className="mute">{s.why}</p>
        </li>
      ))}
    </ol>
  );
}
function Water({ view }: { view: View | null }) {
  return (
    <div className={css.row}>
      <NamedFigure name="temperature" label="fill temperature" />
      <NamedFigure name="hose" label="hose" />
      <NamedFigure name="precharge_found" label="precharge set" />
      {view?.grows && (
        <p className="mute">
          Grows by <strong className="mono">{view.grows.shown}</strong>
          {view.takes && (
            <>
              ; the vessel takes <strong className="mono">{view.takes.shown}</strong>
            </>
          )}
        </p>
      )}
    </div>
  );
}
interface BranchProps extends Said {
  view: View | null;
  row: (list: string, at: number, more: Row) => void;
}
/** Each branch as a pipe: as much of it runs as it is fast. */
function Branches({ view, body, say, row }: BranchProps) {
  const { may } = useTools();
  const rows = rowsOf(body, "branches");
  return (
    <section className={css.part} aria-label="Branches">
      <ol className={css.rows}>
        {rows.map((r, i) => {
          const seen = view?.branches[i];
          const at = (name: string) => `branches.${String(i)}.${name}`;
          return (
            <li key={i} data-branch={i}>
              <div className={css.row}>
                <span className="dimfield">
                  <label htmlFor={`branch-${String(i)}`}>branch</label>
                  <input
                    id={`branch-${String(i)}`}
                    maxLength={40}
                    readOnly={!may}
                    value={(r.name as string | undefined) ?? ""}
                    onChange={(e) => row("branches", i, { name: e.target.value })}
                  />
                </span>
                <NamedFigure name={at("bore")} label="largest bore" />
                <NamedFigure name={at("length")} label="length" />
                <NamedFigure name={at("flow")} label="purge flow" />
                <NamedFigure name={at("minutes")} label="for" />
                <label className="confirm">
                  <input
                    type="checkbox"
                    disabled={!may}
                    checked={Boolean(r.both)}
                    onChange={(e) => row("branches", i, { both: e.target.checked || null })}
                  />{" "}
                  Both ways
                </label>
              </div>
              {seen && <Pipes seen={seen} />}
              {may && (
                <button
                  type="button"
                  className="linklike"
                  onClick={() => say({ branches: without(body, "branches", i) } as Partial<Body>)}
                >
                  Remove
                </button>
              )}
            </li>
          );
        })}
      </ol>
      {may && (
        <button
          type="button"
          className="btn-line"
          onClick={() =>
            say({ branches: [...rows, { name: `branch ${String(rows.length + 1)}` }] } as Partial<Body>)
          }
        >
          Add a branch
        </button>
      )}
    </section>
  );
}
function Pipes({ seen }: { seen: View["branches"][number] }) {
  const rest = [
    seen.wanted && `takes ${seen.wanted.shown}`,
    seen.velocity && `runs at ${seen.velocity.shown}`,
    seen.litres && `holds ${seen.litres.shown}`,
    seen.minutes && `three volumes in ${seen.minutes.shown}`,
    seen.turns_in && `turns in ${seen.turns_in.shown}`,
    seen.loss && `costs ${seen.loss.shown}`,
  ].filter(Boolean);
  return (
    <>
      <svg viewBox="0 0 400 22" role="img" aria-label="How fast it runs" data-fast={seen.fast ?? ""}>
        <path className={css.pipe} d="M0 4H400M0 18H400" />
        {seen.fast != null && <path className={css.flow} d={`M0 11H${String(400 * seen.fast)}`} />}
      </svg>
      <p className="mute">{rest.join(", ")}</p>
    </>
  );
}
function AirTest({ view }: { view: View | null }) {
  return (
    <section className={css.part} aria-label="Air test">
      <div className={css.row}>
        <NamedFigure name="drum" label="drum, diameter" />
        <NamedFigure name="drop" label="it fell by" />
        <NamedFigure name="air_low" label="from" />
        <NamedFigure name="air_high" label="to" />
      </div>
      {view?.air && (
        <p data-air>
          Air in it: <strong className="mono">{view.air.shown}</strong>
        </p>
      )}
    </section>
  );
}
function Start({ body, say }: Said) {
  const { may } = useTools();
  const said = { body, say };
  return (
    <section className={css.part} aria-label="Before its pump starts">
      <div className={css.row}>
        <NamedFigure name="standing" label="standing pressure now" />
      </div>
      <p className="statesentence">
        <Choose name="hose_on" label="Hose on or off" options={HOSE} {...said} />; shaft turned by hand, or
        last ran, on{" "}
        <input
          type="date"
          className={`inline-input ${css.dateinput}`}
          aria-label="Shaft last turned by hand, or last ran"
          readOnly={!may}
          value={body.turned ?? ""}
          onChange={(e) => say({ turned: e.target.value || null })}
        />
        . <Tick name="vented" label="Suction vented, water without spit" {...said} />
      </p>
    </section>
  );
}
function Pipe({ body, view }: { body: Body; view: View | null }) {
  const rows = rowsOf(body, "pipes");
  return (
    <details className={css.more} open={rows.length > 0 || undefined}>
      <summary>
        Volume by its pipe {view?.volume && <span className="mono">&nbsp;{view.volume.shown}</span>}
      </summary>
      {[...rows, {}].map((_, i) => (
        <div key={i} className={css.row}>
          <NamedFigure name={`pipes.${String(i)}.bore`} label="inside diameter" />
          <NamedFigure name={`pipes.${String(i)}.length`} label="length" />
        </div>
      ))}
      <NamedFigure name="more" label="exchangers and others" />
    </details>
  );
}
