/** One pump set: its train large, what its parts said last, plates, trends, history. */
import type { ReactNode } from "react";
import { useLocation, useNavigate, useParams, Link } from "react-router";
import {
  benchesOf,
  benchPath,
  Ready,
  small,
  Spot,
  useBenches,
  useKeys,
  useNarrow,
  VerdictWord,
  type Schemas,
} from "../../base";
import { partPlaces, Train, useSet, useSites, type SetOut, type TrainTag } from "../../plant";
import { Happened } from "../components/Happened";
import { History } from "../components/History";
import { Pictures } from "../components/Pictures";
import { Trends } from "../components/Trends";
import { useSetState } from "../queries";
import type { Said } from "../saving";
import css from "../logbook.module.scss";

type Slot = (set: SetOut) => ReactNode;
/** `offers`: what can be begun on the set now. `hangs`: what hangs on it, before its trends. */
export function SetPage({
  offers,
  hangs,
  tags,
}: {
  offers: Slot;
  hangs: Slot;
  tags?: (setId: number) => TrainTag[];
}) {
  const id = Number(useParams().setId);
  const set = useSet(id);
  return (
    <Ready query={set} what="Loading pump set">
      {(s) => <SetOf set={s} offers={offers} hangs={hangs} tags={tags?.(s.id) ?? []} />}
    </Ready>
  );
}

function SetOf({ set, offers, hangs, tags }: { set: SetOut; offers: Slot; hangs: Slot; tags: TrainTag[] }) {
  const state = useSetState(set.id);
  const zone = useSites().data?.find((s) => s.id === set.site_id)?.time_zone ?? "UTC";
  const go = useNavigate();
  const narrow = useNarrow();
  const benches = useBenches().data;
  useKeys([
    ...benchesOf(benches, set)
      .filter((b) => b.key)
      .map((b) => ({ key: b.key, does: b.does, run: () => void go(benchPath(set.id, b.name)) })),
    { key: "b", does: "parts and nameplates", run: () => void go(`/sets/${set.id}/parts`) },
  ]);
  const said = useLocation().state as Said | null;
  const places = set.posture === "flat" ? partPlaces(set.posture, set.slots) : null;
  const drive = set.components.find((c) => c.slot === "control")?.kind ?? "";
  return (
    <>
      <div className={`rowflex ${small.between}`}>
        <h1>
          <span className="mono">{set.tag}</span> <span className={small.light}>{set.name}</span>
        </h1>
        {offers(set)}
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
      {said?.differs && (
        <p className="notice" role="status" data-testid="differs">
          Saved. Something was entered meanwhile, and the verdict differs from the one you saw:{" "}
          <Link to={`/records/${said.saved}`}>open the record</Link>.
        </p>
      )}
      <div className="ruled">
        <Ready query={state} what="Loading status">
          {(s) => (
            <div className={css.headgrid}>
              <div className={css.trainbox}>
                <Train
                  kind={set.kind}
                  posture={set.posture}
                  slots={set.slots}
                  control={drive}
                  parts={s.parts}
                  running={set.role !== "standby"}
                  pipe
                  {...(narrow ? (set.posture === "flat" ? { width: 350 } : { scale: 1.3 }) : { scale: 2.6 })}
                  label={set.tag}
                  tags={tags}
                  onPart={() => void go(`/sets/${set.id}/parts`)}
                />
                {(narrow || places) && <Callouts figures={s.figures} places={narrow ? null : places} />}
              </div>
              <div>
                <p className={small.setVerdict} data-testid="set-verdict">
                  <VerdictWord verdict={s.verdict} />
                  {tags.length > 0 && (
                    <span className={`mute ${small.plainSize}`}> open items, not cleared</span>
                  )}
                </p>
                {s.reasons.map((r) => (
                  <p key={r} className={small.lineOver}>
                    {r}
                  </p>
                ))}
                {!narrow && !places && <Callouts figures={s.figures} places={null} />}
              </div>
            </div>
          )}
        </Ready>
      </div>
      {hangs(set)}
      <div className={css.setgrid}>
        <section className="ruled" aria-labelledby="trends-title">
          <Trends key={set.id} setId={set.id} zone={zone} />
        </section>
        <div>
          <section className="ruled" aria-labelledby="plates-title">
            <div className={`rowflex ${small.between}`}>
              <h2 id="plates-title">Nameplates</h2>
              <Link to={`/sets/${set.id}/parts`}>
                {set.may === "admin" ? "Edit or replace" : "All parts"}
              </Link>
            </div>
            {set.components
              .filter((c) => c.lines.length || c.missing.length)
              .map((c) => (
                <p key={c.id} className={small.below}>
                  <strong>{c.slot_title}</strong> {c.lines.join("; ")}
                  {c.missing.map((m) => (
                    <span key={m.field} className="v-unknown">
                      {" "}
                      — {m.message}
                    </span>
                  ))}
                </p>
              ))}
          </section>
          <section className="ruled" aria-labelledby="pictures-title">
            <h2 id="pictures-title">Photos and documents</h2>
            <Pictures
              setId={set.id}
              tag={set.tag}
              zone={zone}
              may={set.may !== "viewer"}
              parts={set.components.map((c) => ({ slot: c.slot, title: c.slot_title }))}
            />
          </section>
          <section className="ruled" aria-labelledby="history-title">
            <h2 id="history-title">History</h2>
            {set.may !== "viewer" && <Happened setId={set.id} tag={set.tag} zone={zone} />}
            <History setId={set.id} zone={zone} />
            <p className={`mute noprint ${small.under}`}>
              {(benches ?? [])
                .filter((b) => b.files)
                .map((b) => (
                  <span key={b.name}>
                    {b.records}:{" "}
                    <a href={`/api/v1/sets/${set.id}/readings/${b.name}.csv`} download>
                      CSV
                    </a>
                    ,{" "}
                    <a href={`/api/v1/sets/${set.id}/readings/${b.name}.json`} download>
                      JSON
                    </a>
                    .{" "}
                  </span>
                ))}
            </p>
          </section>
        </div>
      </div>
    </>
  );
}

/** The last figures, each beneath the part it belongs to where there is room. */
function Callouts({
  figures,
  places,
}: {
  figures: Schemas["LastFigure"][];
  places: Record<string, number> | null;
}) {
  const parts = [...new Set(figures.map((f) => f.part))];
  const row = (part: string) =>
    figures
      .filter((f) => f.part === part)
      .map((f) => (
        <div key={f.label}>
          <span className="mono">{f.shown}</span> <span className="lab">{f.label}</span>
        </div>
      ));
  if (!places)
    return (
      <div className={`${css.callouts} ${small.roomAround}`}>
        {parts.map((p) => (
          <div className={css.callout} key={p}>
            {row(p)}
          </div>
        ))}
      </div>
    );
  const at = parts.map((p) => places[p] ?? 0);
  const lower = tiers(at);
  const rows = (low: boolean) =>
    Math.max(0, ...parts.map((p, i) => (lower[i] === low ? figures.filter((f) => f.part === p).length : 0)));
  const drop = 29 * rows(false) + 10;
  return (
    <Spot
      className={css.undertrain}
      at={{
        height: 16 + Math.max(58, 29 * rows(false) + (lower.includes(true) ? 10 + 29 * rows(true) : 0)),
      }}
    >
      {parts.map((p, i) => (
        <Spot
          className={lower[i] ? `${css.callout} ${css.lower}` : css.callout}
          key={p}
          at={{ left: `${(at[i] ?? 0) * 100}%`, paddingTop: lower[i] ? drop : 2 }}
        >
          {row(p)}
        </Spot>
      ))}
    </Spot>
  );
}
const REACH = 0.24;
/** Which callouts go below the others: those that would run into the one before them. Places in parts of the train's width. */
export function tiers(at: number[]): boolean[] {
  const order = at.map((_, i) => i).sort((a, b) => (at[a] ?? 0) - (at[b] ?? 0));
  const lower = at.map(() => false);
  let last = -1;
  for (const i of order) {
    if ((at[i] ?? 0) - last < REACH) lower[i] = true;
    else last = at[i] ?? 0;
  }
  return lower;
}
