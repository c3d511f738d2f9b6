/** What was photographed and which papers lie with a set: its parts' and its entries' with it. */
import { useId, useState } from "react";
import {
  Act,
  address,
  Complaint,
  dayTime,
  MOST_BYTES,
  outbox,
  Ready,
  shrunk,
  useGet,
  useMe,
  type Schemas,
} from "../../base";
import css from "../logbook.module.scss";

type Attachment = Schemas["AttachmentOut"];
type Part = { slot: string; title: string };

export const useAttachments = (setId: number) =>
  useGet("/api/v1/sets/{set_id}/attachments", { set_id: setId, before: "" });

async function put(
  setId: number,
  tag: string,
  file: File,
  words: { part: string; entry: string; title: string },
) {
  const pdf = file.type === "application/pdf" || file.name.toLowerCase().endsWith(".pdf");
  // Made small before it waits: what lies on the device until somebody answers is never large.
  const small = pdf ? file : await shrunk(file);
  if (small.size > MOST_BYTES)
    throw new Error(
      `${pdf ? "The document" : "The photo"} has ${Math.round(small.size / 1e6)} MB; 8 MB are taken.`,
    );
  const uuid = crypto.randomUUID();
  return outbox.write(
    "POST",
    address("/api/v1/sets/{set_id}/attachments", { set_id: setId }),
    { uuid, ...words },
    `${tag}, ${pdf ? "document" : "photo"}`,
    uuid,
    small,
  );
}

interface AddProps {
  setId: number;
  tag: string;
  /** The entry a photo goes with; none: the set, or the part that is chosen. */
  entry?: string;
  parts?: Part[];
  done?: () => void;
}
/** Take a photo or choose a file; it is kept on the device until it is sent. */
export function AddPicture({ setId, tag, entry = "", parts = [], done }: AddProps) {
  const id = useId();
  const [words, setWords] = useState({ title: "", part: "" });
  const [busy, setBusy] = useState(0);
  const [kept, setKept] = useState(0);
  const [error, setError] = useState<unknown>(null);
  const take = async (file: File | undefined) => {
    if (!file) return;
    setError(null);
    setBusy((n) => n + 1);
    try {
      await put(setId, tag, file, { ...words, entry });
      setWords({ title: "", part: words.part });
      setKept((n) => n + 1);
      done?.();
    } catch (e) {
      setError(e);
    } finally {
      setBusy((n) => n - 1);
    }
  };
  return (
    <div className={`${css.addpicture} noprint`}>
      {!entry && (
        <div className="field">
          <label htmlFor={`${id}t`}>What it shows</label>
          <input
            id={`${id}t`}
            maxLength={120}
            value={words.title}
            onChange={(e) => setWords({ ...words, title: e.target.value })}
          />
        </div>
      )}
      {parts.length > 0 && (
        <div className="field">
          <label htmlFor={`${id}p`}>Of which part</label>
          <select
            id={`${id}p`}
            value={words.part}
            onChange={(e) => setWords({ ...words, part: e.target.value })}
          >
            <option value="">the set</option>
            {parts.map((p) => (
              <option key={p.slot} value={p.slot}>
                {p.title}
              </option>
            ))}
          </select>
        </div>
      )}
      <label className={`btn-line ${css.filebtn}`}>
        Add a photo
        <input
          type="file"
          accept="image/*"
          capture="environment"
          onChange={(e) => {
            void take(e.target.files?.[0]);
            e.target.value = "";
          }}
        />
      </label>
      {!entry && (
        <label className={`btn-line ${css.filebtn}`}>
          Add a document, PDF
          <input
            type="file"
            accept="application/pdf"
            onChange={(e) => {
              void take(e.target.files?.[0]);
              e.target.value = "";
            }}
          />
        </label>
      )}
      {busy > 0 && <span role="status">Stored on this device. Sending…</span>}
      {busy === 0 && kept > 0 && (
        <span role="status" className="mute">
          {kept === 1 ? "Added." : `${kept} added.`}
        </span>
      )}
      <Complaint error={error instanceof Error && error.name === "Error" ? error.message : error} />
    </div>
  );
}

/** Photos as small pictures, documents by name; `of` narrows them to one record's entries. */
export function Pictures({
  setId,
  tag,
  zone,
  may,
  parts,
  of,
}: {
  setId: number;
  tag: string;
  zone: string;
  may: boolean;
  parts?: Part[];
  of?: string[];
}) {
  const found = useAttachments(setId);
  const me = useMe();
  return (
    <Ready query={found} what="Loading photos and documents">
      {(list) => {
        const items = of ? list.items.filter((a) => of.includes(a.entry)) : list.items;
        return (
          <div className={css.pictures} data-testid="pictures">
            {items.length === 0 && (
              <p className="mute">{of ? "No photo with this record." : "No photo and no document yet."}</p>
            )}
            <ul>
              {items.map((a) => (
                <li key={a.uuid} data-kind={a.kind}>
                  {a.kind === "photo" ? (
                    <a href={`/api/v1/attachments/${a.uuid}.jpg`} target="_blank" rel="noreferrer">
                      <img
                        src={`/api/v1/attachments/${a.uuid}.jpg`}
                        alt={a.title || `Photo of ${a.part || tag}`}
                        loading="lazy"
                      />
                    </a>
                  ) : (
                    <a className="btn-line" href={`/api/v1/attachments/${a.uuid}.pdf`} download>
                      {a.title || "Document"}, PDF, {a.pages === 1 ? "1 page" : `${a.pages} pages`}
                    </a>
                  )}
                  <span className="mute">
                    {[a.kind === "photo" && a.title, a.part, `${dayTime(a.at, zone, me.locale)}, ${a.by}`]
                      .filter(Boolean)
                      .join(" · ")}
                  </span>
                  {may && <Aside a={a} done={() => void found.refetch()} />}
                </li>
              ))}
            </ul>
            {may && !of && (
              <AddPicture setId={setId} tag={tag} parts={parts ?? []} done={() => void found.refetch()} />
            )}
          </div>
        );
      }}
    </Ready>
  );
}

function Aside({ a, done }: { a: Attachment; done: () => void }) {
  const [open, setOpen] = useState(false);
  const [why, setWhy] = useState("");
  const [error, setError] = useState<unknown>(null);
  if (!open)
    return (
      <button className="linklike noprint" onClick={() => setOpen(true)}>
        put aside
      </button>
    );
  const send = async () => {
    setError(null);
    try {
      await outbox.write(
        "POST",
        address("/api/v1/attachments/{uuid}/aside", { uuid: a.uuid }),
        { why },
        `${a.title || a.kind} put aside`,
      );
      done();
    } catch (e) {
      setError(e);
    }
  };
  return (
    <span className="noprint">
      <span className="field">
        <label htmlFor={`why${a.uuid}`}>Why it goes</label>
        <input id={`why${a.uuid}`} maxLength={200} value={why} onChange={(e) => setWhy(e.target.value)} />
      </span>
      <Act waits={!why.trim() && "Enter why first."} onClick={() => void send()}>
        Put it aside
      </Act>{" "}
      <button className="linklike" onClick={() => setOpen(false)}>
        Cancel
      </button>
      <Complaint error={error} />
    </span>
  );
}
