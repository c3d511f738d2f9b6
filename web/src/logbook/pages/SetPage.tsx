/** One pump set as a place: the train is its map; nothing chosen the whole set, else the part that was tapped. */
import { useEffect, useRef, useState, type ReactNode } from "react";
import { Link, useLocation, useNavigate, useParams } from "react-router";
import { benchesOf, benchPath, Ready, small, useBenches, useKeys, useNarrow, type Schemas } from "../../base";
import { useKinds, useSet, useSites, type SetOut, type TrainTag } from "../../plant";
import { Differs } from "../components/Differs";
import { Happened } from "../components/Happened";
import { Pictures } from "../components/Pictures";
import { useSetState } from "../queries";
import type { Said } from "../saving";
import { DueList } from "../set/DueList";
import { History } from "../set/History";
import { Map } from "../set/Map";
import { useChosenPart } from "../set/part";
import { Fitted, PartPanel } from "../set/PartPanel";
import { PartTrends } from "../set/PartTrends";
import { Timeline, type Kind, type Moment } from "../set/Timeline";
import { Wrong } from "../set/Wrong";
import css from "../set/set.module.scss";

export interface Slots {
  /** What can be begun on the whole set. */
  offers: (set: SetOut) => ReactNode;
  /** What can be begun at one part of it. */
  begin: (set: SetOut, part: string) => ReactNode;
  /** What hangs on it, before its history. */
  hangs: (set: SetOut) => ReactNode;
  /** What hangs on one part of it. */
  hung: (setId: number, part: string) => ReactNode;
  tags: (setId: number) => TrainTag[];
  /** What happened to it. */
  moments: Moment[];
  /** There are older records than these. */
  older: boolean;
}

export function SetPage(slots: Slots) {
  const id = Number(useParams().setId);
  const set = useSet(id);
  return (
    <Ready query={set} what="Loading pump set">
      {(s) => <SetOf set={s} {...slots} />}
    </Ready>
  );
}

function SetOf({ set, offers, begin, hangs, hung, tags, moments, older }: { set: SetOut } & Slots) {
  const state = useSetState(set.id);
  const zone = useSites().data?.find((s) => s.id === set.site_id)?.time_zone ?? "UTC";
  const go = useNavigate();
  const benches = useBenches().data;
  const [chosen, choose] = useChosenPart(set);
  useKeys([
    ...benchesOf(benches, set)
      .filter((b) => b.key)
      .map((b) => ({ key: b.key, does: b.does, run: () => void go(benchPath(set.id, b.name)) })),
    { key: "b", does: "parts and nameplates", run: () => void go(`/sets/${set.id}/parts`) },
    ...(chosen ? [{ key: "Escape", does: "back to the whole set", run: () => choose(chosen) }] : []),
  ]);
  return (
    <>
      <Head set={set} offers={offers(set)} />
      <Ready query={state} what="Loading status">
        {(s) => (
          <>
            <Place
              set={set}
              state={s}
              zone={zone}
              {...{ chosen, choose, begin, hangs, hung }}
              tags={tags(set.id)}
            />
            <Past set={set} state={s} zone={zone} moments={moments} older={older} part={chosen} />
          </>
        )}
      </Ready>
    </>
  );
}

function Head({ set, offers }: { set: SetOut; offers: ReactNode }) {
  const said = useLocation().state as Said | null;
  return (
    <>
      <div className={css.head}>
        <h1>
          <span className="mono">{set.tag}</span> <span className={small.light}>{set.name}</span>
        </h1>
        {offers}
      </div>
      <p className={`mute ${small.flush}`}>
        {[
          set.service,
          set.kind_title,
          set.role === "single" ? "" : set.role,
          set.place,
          set.nickname && `“${set.nickname}”`,
        ]
          .filter(Boolean)
          .join(" · ")}
        {set.partners.map((p) => (
          <span key={p.id}>
            {" "}
            · paired with <Link to={`/sets/${p.id}`}>{p.tag}</Link>
          </span>
        ))}
      </p>
      <Differs said={said} />
    </>
  );
}

function Place({
  set,
  state,
  zone,
  chosen,
  choose,
  begin,
  hangs,
  hung,
  tags,
}: {
  set: SetOut;
  state: Schemas["SetStateOut"];
  zone: string;
  chosen: string;
  choose: (part: string) => void;
  tags: TrainTag[];
} & Pick<Slots, "begin" | "hangs" | "hung">) {
  const narrow = useNarrow(900);
  const top = useRef<HTMLDivElement>(null);
  const before = useRef(chosen);
  // On a phone the part opens above where it was tapped.
  useEffect(() => {
    if (narrow && before.current !== chosen) top.current?.scrollIntoView({ block: "start" });
    before.current = chosen;
  }, [chosen, narrow]);
  const title = useKinds().data?.parts.find((p) => p.id === chosen)?.title ?? "";
  return (
    <div ref={top} className={chosen ? `${css.place} ${css.atpart}` : css.place}>
      <Map set={set} state={state} tags={tags} chosen={chosen} choose={choose} />
      {chosen ? (
        <>
          <PartPanel
            key={chosen}
            set={set}
            state={state}
            slot={chosen}
            title={title}
            zone={zone}
            begin={begin(set, chosen)}
            hung={hung(set.id, chosen)}
          />
          <div className={css.below}>
            <PartTrends setId={set.id} part={chosen} zone={zone} />
            <Fitted set={set} slot={chosen} zone={zone} />
          </div>
        </>
      ) : (
        <>
          <div className={css.side}>
            <Wrong setId={set.id} state={state} zone={zone} open={tags.length} may={set.may !== "viewer"} />
            <DueList setId={set.id} due={state.due} zone={zone} may={set.may !== "viewer"} />
          </div>
          <div className={css.below}>{hangs(set)}</div>
        </>
      )}
    </div>
  );
}

function Past({
  set,
  state,
  zone,
  moments,
  older,
  part,
}: {
  set: SetOut;
  state: Schemas["SetStateOut"];
  zone: string;
  moments: Moment[];
  older: boolean;
  part: string;
}) {
  const [kind, setKind] = useState<Kind>("");
  const benches = useBenches().data ?? [];
  const may = set.may !== "viewer";
  return (
    <section className="ruled" aria-labelledby="history-title">
      <h2 id="history-title">History</h2>
      <Timeline
        setId={set.id}
        moments={moments}
        older={older}
        due={state.due}
        zone={zone}
        kind={kind}
        setKind={setKind}
        part={part}
      />
      <History key={kind + part} setId={set.id} zone={zone} moments={moments} kind={kind} part={part} />
      <div className={css.ending}>
        {may && <Happened setId={set.id} tag={set.tag} zone={zone} />}
        <details className="spared">
          <summary>Photos and documents</summary>
          <Pictures
            setId={set.id}
            tag={set.tag}
            zone={zone}
            may={may}
            parts={set.components.map((c) => ({ slot: c.slot, title: c.slot_title }))}
          />
        </details>
        <details className="spared noprint">
          <summary>Export and label</summary>
          <ul>
            <li>
              QR label:{" "}
              <a
                href={`/api/v1/sites/${set.site_id}/labels.pdf?set_id=${set.id}`}
                target="_blank"
                rel="noreferrer"
              >
                PDF
              </a>
            </li>
            {benches
              .filter((b) => b.files)
              .map((b) => (
                <li key={b.name}>
                  {b.records}:{" "}
                  <a href={`/api/v1/sets/${set.id}/readings/${b.name}.csv`} download>
                    CSV
                  </a>
                  ,{" "}
                  <a href={`/api/v1/sets/${set.id}/readings/${b.name}.json`} download>
                    JSON
                  </a>
                </li>
              ))}
          </ul>
        </details>
      </div>
    </section>
  );
}
