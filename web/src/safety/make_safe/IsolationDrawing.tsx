/** Every source as a line that runs into the set: broken where it is shut, locks hanging at the break, dead beyond it. */
import { useState } from "react";
import { initials, waitsFor } from "../logic";
import { Asking, type Say } from "../Steps";
import type { SafeBody, Source } from "../queries";
import css from "./drawing.module.scss";

const GLYPH: Record<string, string> = {
  electrical: "M4-9L-3 1H3L-4 10",
  wet: "M-8-3q4-5 8 0t8 0M-8 4q4-5 8 0t8 0",
  heat: "M-6 8q-4-4 0-8t0-8M0 8q-4-4 0-8t0-8M6 8q-4-4 0-8t0-8",
  spring: "M-9 0L-6-6L-2 6L2-6L6 6L9 0",
  stored: "M-9 0H-3M-3-8V8M3-8V8M3 0H9",
  turning: "M7-3A8 8 0 1 0 8 3M8-8V-2H2",
};
interface Props {
  sources: Source[];
  may: boolean;
  pending: { body: SafeBody }[];
  onSay: Say;
  sheet: string;
  onForgotten: (s: Source, lock: Source["locks"][number]) => void;
  lead: boolean;
}
export function IsolationDrawing({ sources, may, pending, onSay, sheet, onForgotten, lead }: Props) {
  const must = sources.filter((s) => s.must);
  const spared = sources.filter((s) => !s.must);
  return (
    <div className="isolation">
      <ul className={css.sourcelines} aria-label="Sources to isolate">
        {must.map((s) => (
          <Line
            key={s.id}
            s={s}
            may={may}
            waits={waitsFor(pending, s.id)}
            onSay={onSay}
            sheet={sheet}
            onForgotten={onForgotten}
            lead={lead}
          />
        ))}
      </ul>
      {spared.length > 0 && (
        <details className="spared">
          <summary>{spared.length} sources need no isolation for this work: why</summary>
          <ul className="notes">
            {spared.map((s) => (
              <li key={s.id}>
                <strong>{s.title}</strong> ({s.device}): {s.why}
              </li>
            ))}
          </ul>
        </details>
      )}
    </div>
  );
}

function Line({
  s,
  may,
  waits,
  onSay,
  sheet,
  onForgotten,
  lead,
}: {
  s: Source;
  may: boolean;
  waits: string;
  onSay: Say;
  sheet: string;
  onForgotten: Props["onForgotten"];
  lead: boolean;
}) {
  const shut = Boolean(s.shut) && !s.complaint;
  const said = [
    s.shut ? "isolated" : "not isolated",
    ...s.locks.map((k) => `locked by ${k.by}`),
    ...(s.release ? [s.released ? "stored energy released" : "stored energy not released"] : []),
  ].join(", ");
  return (
    <li
      className={s.counts ? `${css.sourceline} ${css.dead}` : `${css.sourceline} ${css.live}`}
      data-source={s.kind}
      data-counts={s.counts}
    >
      <svg
        viewBox="0 0 340 46"
        preserveAspectRatio="xMinYMid meet"
        role="img"
        aria-label={`${s.title}: ${said}`}
      >
        <g transform="translate(16 22)" className={css.glyph}>
          <path d={GLYPH[s.family] ?? GLYPH.electrical} />
        </g>
        <path className={css.feed} d="M32 22H130" />
        {shut ? (
          <path className={css.feed} d="M130 22L150 6" />
        ) : (
          <path className={css.feed} d="M130 22H158" />
        )}
        <circle cx={130} cy={22} r={3.4} className={css.pin} />
        <circle cx={160} cy={22} r={3.4} className={css.pin} />
        <path
          className={s.counts ? `${css.beyond} ${css.dead}` : shut ? css.beyond : css.feed}
          d="M164 22H322"
        />
        <path className={css.wall} d="M322 2V44M322 8l10-8M322 18l10-8M322 28l10-8M322 38l10-8" />
        {s.locks.map((k, i) => (
          <g
            key={k.id}
            transform={`translate(${176 + i * 34} 20)`}
            className={k.mine ? `${css.lock} ${css.mine}` : css.lock}
          >
            <path d="M-5 0V-7A5 5 0 0 1 5-7V0" />
            <rect x={-10} y={0} width={20} height={18} />
            <text x={0} y={14} textAnchor="middle">
              {initials(k.by)}
            </text>
          </g>
        ))}
        {s.release && (
          <text x={306} y={16} textAnchor="end" className={s.released ? css.let : `${css.let} ${css.wait}`}>
            {s.left || (s.released ? "released" : "not released")}
          </text>
        )}
      </svg>
      <div className={css.says}>
        <strong>{s.title}</strong>{" "}
        <span>
          {[s.device, s.place].filter(Boolean).join(", ")}
          {s.sister ? `, shared with ${s.sister}` : ""}
        </span>
        {(s.feeds || s.tell) && (
          <p className={css.alsofeeds} role="note">
            {s.feeds && (
              <>
                Also feeds: <strong>{s.feeds}</strong>.{" "}
              </>
            )}
            {s.tell && (
              <>
                Inform first: <strong>{s.tell}</strong>.
              </>
            )}
          </p>
        )}
        {(s.lock_how || s.try_out) && (
          <p className="mute">
            {[s.lock_how && `lock: ${s.lock_how}`, s.try_out && `verify by: ${s.try_out}`]
              .filter(Boolean)
              .join("; ")}
          </p>
        )}
        {s.locks.length > 0 && (
          <p>
            {s.locks.map((k) => (
              <span key={k.id} className={css.worker}>
                {k.by} <span className="mono">{k.age}</span>
              </span>
            ))}
          </p>
        )}
        {s.complaint && (
          <p className="v-stop" role="alert">
            {s.complaint}
          </p>
        )}
        {s.shut && (
          <p className="mute">
            isolated by {s.shut.by}
            {s.shut.words ? `: ${s.shut.words}` : ""}
          </p>
        )}
        {waits && <p className="pencil">{waits}</p>}
        {lead &&
          s.locks
            .filter((k) => !k.mine)
            .map((k) => (
              <button key={k.id} className="linklike" onClick={() => onForgotten(s, k)}>
                Remove {k.by}’s lock (absent)
              </button>
            ))}
      </div>
      {may && s.next && <Doing s={s} offer={s.next} sheet={sheet} onSay={onSay} />}
    </li>
  );
}
/** What the hand does next at this source; where a figure is asked, it opens first. */
function Doing({
  s,
  offer,
  sheet,
  onSay,
}: {
  s: Source;
  offer: NonNullable<Source["next"]>;
  sheet: string;
  onSay: Say;
}) {
  const [open, setOpen] = useState(false);
  if (open && offer.asks)
    return (
      <div className="rulebox asking" role="group" aria-label={s.title}>
        <Asking offer={{ ...offer, word: "Save reading" }} place={`${sheet}:${s.id}`} onSay={onSay}>
          <button className="linklike" onClick={() => setOpen(false)}>
            Cancel
          </button>
        </Asking>
      </div>
    );
  return (
    <button
      className={`btn-line ${css.doing}`}
      aria-label={`${s.title}: ${offer.word}`}
      onClick={() => (offer.asks ? setOpen(true) : void onSay(offer, ""))}
    >
      {offer.word}
    </button>
  );
}
