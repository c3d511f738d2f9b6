/** What a set is opened for, and what can be begun at its parts. */
import { Link } from "react-router";
import { benchesOf, benchPath, useBenches, type BenchOut } from "../base";
import { type SetOut } from "../plant";
import { OURS, useOffer, useSetSafety } from "./queries";
import css from "./safety.module.scss";

/** What a set is opened for: the check that leads, isolating it, a call. The rest is begun at the part it belongs to. */
export function SetOffers({ set }: { set: SetOut }) {
  const benches = useBenches();
  const mine = set.may === "viewer" ? [] : benchesOf(benches.data, set);
  return (
    <span className="rowflex">
      {mine
        .filter((b) => b.leads)
        .map((b) => (
          <Leading key={b.name} set={set} bench={b} />
        ))}
      {mine
        .filter((b) => b.name === OURS)
        .map((b) => (
          <Door key={b.name} set={set} bench={b} />
        ))}
      <Link className="btn-line" to={`/call?set=${set.id}`}>
        New call
      </Link>
      {!benches.data && benches.error && (
        <span className="mute">What can be begun here could not be fetched.</span>
      )}
    </span>
  );
}
/** What can be begun at one part, in the order of the work: what is not offered now says what it waits for. */
export function SetBegin({ set, part }: { set: SetOut; part: string }) {
  const benches = useBenches().data;
  if (set.may === "viewer") return null;
  const mine = benchesOf(benches, set).filter((b) => b.part === part || b.name === OURS);
  return (
    <section className={css.begin} aria-labelledby="begin-title">
      <h2 id="begin-title">Start</h2>
      <div className={css.beginrow}>
        {mine.map((b) =>
          b.name === OURS ? (
            <Door key={b.name} set={set} bench={b} />
          ) : (
            <Waits key={b.name} set={set} bench={b} />
          ),
        )}
      </div>
    </section>
  );
}
/**
 * A bench with its gate: while it is shut, dashed, and what it waits for beneath. What was read all the same
 * can be written down there.
 */
function Waits({ set, bench }: { set: SetOut; bench: BenchOut }) {
  const { offer } = useOffer(set.id, bench.act);
  const waits = bench.act !== "" && offer?.offered !== true;
  return (
    <span className={css.beginone}>
      <Link className={waits ? `btn-line ${css.waitsfor}` : "btn-line"} to={benchPath(set.id, bench.name)}>
        {bench.offer}
      </Link>
      {waits && offer && <span className="mute">Blocked: {offer.shut[0]?.title}</span>}
    </span>
  );
}
function Door({ set, bench }: { set: SetOut; bench: BenchOut }) {
  const under = useSetSafety(set.id).data?.isolation.scopes.length;
  return (
    <Link className="btn-line" to={benchPath(set.id, bench.name)}>
      {bench.name === OURS && under ? "Isolation status" : bench.offer}
    </Link>
  );
}
function Leading({ set, bench }: { set: SetOut; bench: BenchOut }) {
  const offer = useOffer(set.id, bench.act).offer;
  const to = benchPath(set.id, bench.name);
  return offer?.offered === true ? (
    <Link className="btn-ink" to={to}>
      {bench.offer}
    </Link>
  ) : (
    <Link className="linklike" to={to} title={offer?.shut[0]?.asks}>
      {bench.offer}
      {offer ? ": blocked" : ""}
    </Link>
  );
}
