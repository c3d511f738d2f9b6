/** Where do I go first, and why. */
import type { ReactNode } from "react";
import { Link } from "react-router";
import {
  benchPath,
  byWord,
  MarginLine,
  Ready,
  useBenches,
  small as room,
  useNarrow,
  VerdictShape,
} from "../../base";
import { chosenSite, Train, useKind, useSites, type Site, type TrainTag } from "../../plant";
import { usePlant, type Plant, type PlantSet } from "../queries";
import { pathOf as partPath } from "../set/part";
import css from "../logbook.module.scss";

interface Slots {
  /** Over what needs a person first. */
  before?: ReactNode;
  /** What hangs on a set. */
  hang?: (setId: number) => TrainTag[];
  words?: (setId: number) => ReactNode;
  /** Whether a service is served, and by what. */
  served?: (serviceId: number) => { verdict: string; says: string[] } | undefined;
}
export function PlantPage(slots: Slots) {
  const sites = useSites();
  return (
    <Ready query={sites} what="Loading sites">
      {(list) => {
        const site = chosenSite(list);
        return site ? <PlantOf site={site} {...slots} /> : <NoSite />;
      }}
    </Ready>
  );
}
function NoSite() {
  return (
    <div className="emptyword">
      <h1>No site yet</h1>
      <p>
        A site contains services; a service contains pump sets. If you can add sites, start in the{" "}
        <Link to="/register">register</Link>. If not, ask an admin to add you to a site.
      </p>
    </div>
  );
}

function PlantOf({ site, ...slots }: { site: Site } & Slots) {
  const plant = usePlant(site.id);
  return (
    <Ready query={plant} what="Loading plant">
      {(p) =>
        p.services.some((s) => s.sets.length) ? <Drawn plant={p} {...slots} /> : <Empty site={site} />
      }
    </Ready>
  );
}
function Empty({ site }: { site: Site }) {
  return (
    <div className="emptyword">
      <h1>{site.name} has no pump sets yet</h1>
      {site.role === "admin" ? (
        <p>
          Add a service and its pump sets in the <Link to="/register">register</Link>, or import them there
          from a file. Each set then appears here and waits for its first running check.
        </p>
      ) : (
        <p>An admin adds services and pump sets in the register. They appear here.</p>
      )}
    </div>
  );
}

function Drawn({ plant, before, hang, words, served }: { plant: Plant } & Slots) {
  const sets = new Map(plant.services.flatMap((s) => s.sets.map((x) => [x.id, x] as const)));
  return (
    <div className={css.plantgrid}>
      <div>
        {before}
        <section className={css.firstlist} aria-labelledby="first-title">
          <h2 id="first-title">Needs attention first</h2>
          {plant.first.length === 0 && <p>No set is overdue or out of limits by the records on file.</p>}
          <ol>
            {plant.first.map((f) => {
              const s = sets.get(f.set);
              return s ? <First key={f.set} row={s} first={f} may={plant.role !== "viewer"} /> : null;
            })}
          </ol>
        </section>
      </div>
      <section aria-label="Services">
        {plant.services.map((s) => (
          <Lane key={s.id} service={s} hang={hang} words={words} served={served} />
        ))}
      </section>
    </div>
  );
}

/** Who needs a person first: why, how far, what stands behind it, and the one thing to do. */
function First({ row, first, may }: { row: PlantSet; first: Plant["first"][number]; may: boolean }) {
  const benches = useBenches().data;
  const bench = may ? benches?.find((b) => b.name === first.bench) : undefined;
  const { line, standing } = first;
  return (
    <li data-first={row.tag}>
      <Link to={`/sets/${row.id}`}>
        <div className={css.head}>
          <span className="mono">{row.tag}</span>
          <span className={`v-${row.verdict}`}>
            <VerdictShape verdict={row.verdict} /> {row.verdict}
            {row.by ? `, ${byWord(row.by)}` : ""}
          </span>
        </div>
        <p>{row.reason}</p>
        {line && <MarginLine line={line} verdict={row.verdict} width={340} />}
        <p className="mute">
          {row.name || row.kind}. {standing}
        </p>
      </Link>
      {bench ? (
        <Link className={`btn-line ${css.oneaction}`} to={benchPath(row.id, bench.name)}>
          {bench.offer}
        </Link>
      ) : (
        <Link className={`btn-line ${css.oneaction}`} to={partPath(row.id, first.part)}>
          Open {first.part_title.toLowerCase()}
        </Link>
      )}
    </li>
  );
}

function Lane({
  service,
  hang,
  words,
  served,
}: { service: Plant["services"][number] } & Pick<Slots, "hang" | "words" | "served">) {
  const stands = served?.(service.id);
  const speaks = service.sets.some((s) => s.verdict !== "good" || (hang?.(s.id).length ?? 0) > 0);
  if (!service.sets.length) return null;
  return (
    <div
      className={speaks ? css.lane : `${css.lane} ${css.quiet}`}
      data-service={service.code}
      data-served={stands?.verdict}
    >
      <div className={css.lanehead}>
        <strong>{service.name}</strong>
        {speaks && <span className="mute">{service.note}</span>}
        {stands && (
          <span className={css.served}>
            <span className={`v-${stands.verdict}`}>
              <VerdictShape verdict={stands.verdict} size={13} />
            </span>{" "}
            {stands.says.join(" ")}
          </span>
        )}
      </div>
      <div className={css.trains}>
        {service.sets.map((s) => (
          <Stop key={s.id} row={s} small={!speaks} tags={hang?.(s.id) ?? []} words={words?.(s.id)} />
        ))}
      </div>
    </div>
  );
}

function Stop({
  row,
  small,
  tags,
  words,
}: {
  row: PlantSet;
  small: boolean;
  tags: TrainTag[];
  words: ReactNode;
}) {
  const kind = useKind()(row.kind);
  const narrow = useNarrow();
  const train = kind && (
    <Train
      kind={kind.id}
      posture={kind.posture}
      slots={kind.slots}
      control={row.control}
      parts={row.parts}
      running={row.role !== "standby"}
      pipe={!small}
      {...(small ? { scale: 0.34 } : { scale: narrow ? 0.86 : 0.8, rise: 26 })}
      label={`${row.tag}, ${row.role}`}
      tags={tags}
    />
  );
  if (small)
    return (
      <Link className="trainlink small" to={`/sets/${row.id}`} title={row.reason}>
        {train}
        <span className="mono">{row.tag}</span>
      </Link>
    );
  return (
    <Link className="trainlink" to={`/sets/${row.id}`}>
      <span className={kind && kind.posture !== "flat" ? room.indented : room.block}>{train}</span>
      <span className={css.taghead}>
        <span className="mono">{row.tag}</span>
        <span className="mute">{row.role === "single" ? row.nickname : row.role}</span>
      </span>
      <div className={row.verdict === "good" ? `${css.reason} mute` : css.reason}>{row.reason}</div>
      {words}
    </Link>
  );
}
