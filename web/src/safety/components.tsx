/** Tags, the strip for what is live, the box of a gate, a matter with its first minute. */
import { useState, type ReactNode } from "react";
import { Link } from "react-router";
import {
  Act,
  SENDING,
  address,
  becausePath,
  benchPath,
  Complaint,
  sendFile,
  small,
  useSmallForm,
  VerdictShape,
} from "../base";
import { chosenSite, useSites } from "../plant";
import { sentence, TAG_OUTLINE } from "./logic";
import { OURS, useOffer, useSetSafety, useSiteSafety, type Matter, type Offer, type Tag } from "./queries";
import css from "./safety.module.scss";

export function TagShape({ tag }: { tag: Tag }) {
  return (
    <svg
      className={`${css.tagshape} v-${tag.verdict}`}
      width={18}
      height={26}
      viewBox="-9 -11 18 28"
      aria-hidden="true"
    >
      <path className={css.string} d="M0-4V-11" />
      <path
        className={tag.verdict === "act" || tag.verdict === "stop" ? css.solid : "thing"}
        d={TAG_OUTLINE}
      />
      <circle cx={0} cy={0} r={1.6} className={css.hole} />
    </svg>
  );
}
/** Everything that hangs on one thing, each tag with its age and its names. */
export function Tags({ tags, small = false }: { tags: Tag[]; small?: boolean }) {
  if (!tags.length) return null;
  return (
    <ul className={small ? `${css.tags} small` : css.tags} aria-label="Open items">
      {tags.map((t) => (
        <li key={t.kind + t.id} className={`v-${t.verdict}`} data-tag={t.kind}>
          <TagShape tag={t} />
          {small ? (
            <span>
              {t.title}, {t.age}
              {t.kind === "isolation" && t.names?.length ? `: ${t.names.join(", ")}` : ""}
            </span>
          ) : (
            <span>
              <strong>{t.title}</strong> <span className={`${css.age} mono`}>{t.age}</span>{" "}
              <span className={css.words}>
                {t.kind === "change" ? `${sentence(t.place ?? "")} ${(t.names ?? []).join(", ")}` : t.says}
              </span>
            </span>
          )}
        </li>
      ))}
    </ul>
  );
}

/** What is live where it should be dead, over every page of everybody on the site. */
export function LiveStrip() {
  const { data: sites } = useSites();
  const site = chosenSite(sites);
  const safety = useSiteSafety(site?.id ?? null);
  const live = safety.data?.tags.filter((t) => t.kind === "live") ?? [];
  return (
    <>
      {live.map((t) => (
        <div key={t.id} className={`strip ${css.livestrip}`} role="alert" data-testid="livestrip">
          <Link to={benchPath(t.set_id ?? 0, OURS)}>
            <span className="mono">{t.tag}</span> {t.says}
          </Link>
        </div>
      ))}
    </>
  );
}
/** Over the page of a set on which volts were seen: nothing else is read first. */
export function LiveOver({ setId }: { setId: number }) {
  const live = useSetSafety(setId).data?.isolation.live;
  return live ? (
    <div className={css.liveover} role="alert" data-testid="liveover">
      <svg width={34} height={44} viewBox="0 0 34 44" aria-hidden="true">
        <path d="M20 2L6 24H16L12 42L28 18H17z" />
      </svg>
      <p>{live}</p>
    </div>
  ) : null;
}

/** The tags of the site by set, for the pages that draw the sets. */
export function useTagsBySet(): (setId: number) => Tag[] {
  const site = chosenSite(useSites().data);
  const tags = useSiteSafety(site?.id ?? null).data?.tags ?? [];
  return (setId) => tags.filter((t) => t.set_id === setId);
}

/** A step that is not offered yet: why, and what opens it. What was seen can be written down all the same. */
export function Gate({
  setId,
  act,
  what,
  seen,
  inPlace,
  heading,
  children,
}: {
  setId: number;
  act: string;
  what: string;
  seen: string;
  inPlace?: ReactNode;
  /** Stands over the gate where what is behind it would bring its own. */
  heading?: ReactNode;
  children: (offered: boolean) => ReactNode;
}) {
  const { offer, known, failed } = useOffer(setId, act);
  const [all, setAll] = useState(false);
  // One shape for both, so that what is typed stays while the answer comes.
  if (!offer || offer.offered)
    return (
      <>
        {!known && <StandsUnknown failed={failed} what={what} />}
        {children(offer?.offered === true)}
      </>
    );
  if (all)
    return (
      <>
        <p className="notice" data-testid="gate">
          {what} blocked: {offer.shut[0]?.title}. <Opens offer={offer} setId={setId} />
        </p>
        {children(false)}
      </>
    );
  return (
    <>
      {heading}
      <GateBox offer={offer} what={what} setId={setId}>
        {inPlace}
        {seen && (
          <button className="linklike" onClick={() => setAll(true)}>
            {seen}
          </button>
        )}
      </GateBox>
      {!seen && children(false)}
    </>
  );
}
/** Where what is wanting is done: at the set, or where it is on record who is qualified. */
function Opens({ offer, setId, className }: { offer: Offer; setId: number; className?: string }) {
  const person = offer.shut.every((s) => s.gate === "qualified");
  return person ? (
    <Link className={className} to="/instruments">
      Qualifications
    </Link>
  ) : (
    <Link className={className} to={benchPath(setId, OURS)}>
      Isolate
    </Link>
  );
}
/**
 * How the set stands is not known yet, or cannot be fetched: nothing is offered until it is. What was seen
 * can be written down.
 */
function StandsUnknown({ failed, what }: { failed: boolean; what: string }) {
  const says = failed ? "Status of this set could not be loaded" : "Loading status of this set";
  return (
    <p className="mute" role="status" data-testid="gate-unknown">
      {says}. {what} is blocked until it is known.
    </p>
  );
}
export function GateBox({
  offer,
  what,
  setId,
  children,
}: {
  offer: Offer;
  what: string;
  setId: number;
  children?: ReactNode;
}) {
  return (
    <div className={css.gatebox} role="note" aria-label={`${what}: blocked`} data-testid="gate">
      <p>
        <strong>{what} blocked. First:</strong>
      </p>
      <ul>
        {offer.shut.map((s) => (
          <li key={s.gate} data-gate={s.gate}>
            {s.asks}
          </li>
        ))}
      </ul>
      <p className="rowflex">
        <Opens offer={offer} setId={setId} className="btn-line" /> {children}
      </p>
    </div>
  );
}

export function MatterBox({ matter, may }: { matter: Matter; may: boolean }) {
  return (
    <article className={css.matter} data-testid="matter">
      <header>
        {matter.set_id ? (
          <Link to={`/sets/${matter.set_id}`} className="mono">
            {matter.tag}
          </Link>
        ) : (
          <strong>{matter.where}</strong>
        )}
        <span className={`v-${matter.verdict}`}>
          <VerdictShape verdict={matter.verdict} />{" "}
          {matter.calls
            .map((c) => c.title)
            .filter((t, i, a) => a.indexOf(t) === i)
            .join(", ")}
        </span>
        <span className="mono mute">{matter.age}</span>
      </header>
      {matter.threatens.length > 0 && (
        <p>
          {matter.threatens.join(" ")} {matter.many}
        </p>
      )}
      <ol className={css.firstminute} aria-label="Immediate actions">
        {matter.first.map((f) => (
          <li key={f}>{f}</li>
        ))}
      </ol>
      {matter.calls
        .filter((c) => c.note || c.picture)
        .map((c) => (
          <p key={c.uuid} className="mute">
            {c.by}: {c.note}{" "}
            {c.picture && (
              <a href={`/api/v1/pictures/${c.picture}.jpg`} target="_blank" rel="noreferrer">
                <img
                  className={css.thumb}
                  src={`/api/v1/pictures/${c.picture}.jpg`}
                  alt={`Photo by ${c.by}`}
                />
              </a>
            )}
          </p>
        ))}
      {may && matter.set_id && (
        <p className="noprint">
          <Link
            to={becausePath(matter.set_id, {
              from: "call",
              of: String(matter.id),
              says: matter.calls.at(-1)?.title ?? "",
            })}
          >
            Open a job
          </Link>
        </p>
      )}
      {may && <EndMatter matter={matter} />}
    </article>
  );
}
function EndMatter({ matter }: { matter: Matter }) {
  const [open, setOpen] = useState(false);
  const f = useSmallForm(`matter:${matter.id}`, { found: "", done: "" });
  if (!open)
    return (
      <button className="linklike" onClick={() => setOpen(true)}>
        Close call
      </button>
    );
  return (
    <div className="rulebox">
      <div className="field">
        <label htmlFor={`found${matter.id}`}>What was found</label>
        <input
          id={`found${matter.id}`}
          maxLength={500}
          value={f.v.found}
          onChange={(e) => f.set({ found: e.target.value })}
        />
      </div>
      <div className="field">
        <label htmlFor={`done${matter.id}`}>What was done</label>
        <input
          id={`done${matter.id}`}
          maxLength={500}
          value={f.v.done}
          onChange={(e) => f.set({ done: e.target.value })}
        />
      </div>
      <Complaint error={f.error} />
      <p className={`rowflex ${small.below}`}>
        <Act
          waits={f.busy && SENDING}
          onClick={() =>
            void f.send(
              "POST",
              address("/api/v1/matters/{matter_id}/end", { matter_id: matter.id }),
              f.v,
              `${matter.tag || matter.where}: call closed`,
            )
          }
        >
          Close call
        </Act>
        <button className="linklike" onClick={() => setOpen(false)}>
          Cancel
        </button>
      </p>
    </div>
  );
}

/** A picture is shrunk by the server; it goes as a file, and its id into the words that speak of it. */
export async function sendPicture(siteId: number, file: File): Promise<string> {
  const made = (await sendFile(`/api/v1/sites/${siteId}/pictures`, { uuid: crypto.randomUUID() }, file)) as {
    id: string;
  };
  return made.id;
}
export function PictureField({
  siteId,
  value,
  onChange,
  id,
}: {
  siteId: number;
  value: string;
  onChange: (id: string) => void;
  id: string;
}) {
  const [busy, setBusy] = useState(false);
  const [error, setError] = useState<unknown>(null);
  const take = async (file: File | undefined) => {
    if (!file) return;
    setBusy(true);
    setError(null);
    try {
      onChange(await sendPicture(siteId, file));
    } catch (e) {
      setError(e);
    } finally {
      setBusy(false);
    }
  };
  return (
    <div className="field">
      <label htmlFor={id}>Photo (location data is removed)</label>
      <input
        id={id}
        type="file"
        accept="image/*"
        capture="environment"
        onChange={(e) => void take(e.target.files?.[0])}
      />
      {busy && <span role="status">Sending photo…</span>}
      {value && <img className={css.thumb} src={`/api/v1/pictures/${value}.jpg`} alt="Photo as stored" />}
      <Complaint error={error} />
    </div>
  );
}
