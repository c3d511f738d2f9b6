/** The walk down a set's circuit: its ladder with the probes on it, what is left, and where to measure next. */
import { useMemo, useState } from "react";
import { KeptLate, Spot } from "../../base";
import { useSites } from "../../plant";
import {
  Bench,
  Note,
  NotToBeStarted,
  Photo,
  PutOnRecord,
  Reason,
  Sending,
  useBench,
  useTools,
  Verdicts,
  type Given,
} from "../../safety";
import { Editor } from "./Editor";
import { Ladder } from "./Ladder";
import { layoutOf, stageWidth, type View } from "./layout";
import { Left, NextProbe } from "./Left";
import { Probes } from "./Probes";
import { ReadingList } from "./ReadingList";
import { StateLine } from "./StateLine";
import { useWalk, type Walk } from "./walk";
import css from "./drawing.module.scss";

export function Drawing({ given }: { given: Given }) {
  const { mode, record, set } = given;
  const walk = useWalk(given);
  const tools = useBench<View>(given, walk.own);
  const [editing, setEditing] = useState(false);
  const zone = useSites().data?.find((s) => s.id === set.site_id)?.time_zone ?? "UTC";
  const { view } = walk;
  const acts = tools.may && mode !== "pencil";
  const supply = view && `${view.title}, ${view.supply ?? ""}`;
  return (
    <Bench
      tools={tools}
      more={supply}
      before={
        <>
          {walk.others && <p className="notice">{walk.others}</p>}
          {mode === "new" && <NotToBeStarted set={set} />}
        </>
      }
    >
      {editing ? (
        <Editor set={set} zone={zone} onDone={() => setEditing(false)} />
      ) : !view ? (
        <Verdicts />
      ) : (
        <>
          <StateLine walk={walk} view={view} />
          <div className={css.bench}>
            <Standing walk={walk} view={view} />
            <div>
              <Verdicts />
              <NextProbe view={view} walk={walk} />
              <Left view={view} />
              {view.below && <p className="mute">{view.below}</p>}
              <Enter walk={walk} />
              <ReadingList
                view={tools.answer?.view ?? view}
                zone={zone}
                onUndo={tools.may ? walk.undo : null}
              />
              <Reason />
              <div onBlur={walk.keepNote}>
                <Note />
              </div>
              {walk.entries.length > 0 && <Photo />}
              <div className="savebar">
                {set.may !== "viewer" && mode === "new" && (
                  <button className="btn-line" onClick={() => setEditing(true)}>
                    {view.confirmed ? "Edit circuit" : "Confirm or edit circuit"}
                  </button>
                )}
                <PutOnRecord />
              </div>
              <Sending />
              <KeptLate sheet={walk.late} />
            </div>
          </div>
          {record === null && walk.entries.length > 0 && acts && <Leaving walk={walk} />}
        </>
      )}
    </Bench>
  );
}
/** The ladder with the probes on it. */
function Standing({ walk, view }: { walk: Walk; view: View }) {
  const { answer, given, may, narrow } = useTools();
  const width = stageWidth(narrow, view.paths.length);
  const layout = useMemo(
    () => layoutOf(view.rungs, view.legs.length, width, { grounded: view.ground, paths: view.paths }),
    [view.rungs, view.legs.length, view.ground, view.paths, width],
  );
  const shown = (answer?.view as View | undefined) ?? view;
  const { contactor, motor, leads, meter } = walk.stands;
  const turns = leads === "off" ? "off" : motor === "running" ? "turning" : "standing";
  return (
    <Spot className={css.stage} at={{ width: layout.width, height: layout.height }}>
      <Ladder
        view={shown}
        layout={layout}
        label={`Circuit of ${given.set.tag}: ${view.title}`}
        held={[walk.probes.one, walk.probes.two].sort().join("|")}
        state={[contactor, turns, meter].join(":")}
      />
      {may && <Probes walk={walk} layout={layout} />}
    </Spot>
  );
}
function Enter({ walk }: { walk: Walk }) {
  const { narrow } = useTools();
  if (!walk.text || narrow) return null;
  return (
    <p>
      <button className="btn-ink" onClick={walk.enter}>
        Enter reading
      </button>{" "}
      <span className="mute">or press Enter in the field</span>
    </p>
  );
}
function Leaving({ walk }: { walk: Walk }) {
  const { reason } = useTools();
  return (
    <details className="spared">
      <summary>Close without record</summary>
      <div className="noteline">
        <div className="field">
          <label htmlFor="left">Reason</label>
          <input id="left" value={reason.value} onChange={(e) => reason.set(e.target.value)} />
        </div>
        <button className="btn-line" onClick={() => void walk.leave()}>
          Close without record
        </button>
      </div>
    </details>
  );
}
