/** A call: where, what, sent. Two taps; words and a picture afterwards. */
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useSearchParams } from "react-router";
import {
  Act,
  address,
  Complaint,
  outbox,
  Ready,
  renew,
  small,
  useDraft,
  useMe,
  useSession,
  VerdictShape,
} from "../base";
import { usePlant } from "../logbook";
import { chosenSite, findSets, useSites, type Site } from "../plant";
import { MatterBox, PictureField } from "./components";
import { useSafetyWords, useSiteSafety, type Matter } from "./queries";
import css from "./safety.module.scss";

interface Where {
  set_id?: number;
  service_id?: number;
  room?: string;
  word: string;
}
export function CallPage() {
  const sites = useSites();
  return (
    <Ready query={sites}>
      {(list) => {
        const site = chosenSite(list);
        return site ? <CallOf site={site} /> : <p>No site yet. Ask an admin to add you.</p>;
      }}
    </Ready>
  );
}
function CallOf({ site }: { site: Site }) {
  const plant = usePlant(site.id);
  const words = useSafetyWords();
  const me = useMe();
  const { now } = useSession();
  const client = useQueryClient();
  const asked = Number(useSearchParams()[0].get("set")) || null;
  const text = useDraft(`${me.username}:call:${site.id}:where`, "");
  const [where, setWhere] = useState<Where | null>(null);
  const [sent, setSent] = useState<{ uuid: string; matter: Matter | null } | null>(null);
  const [error, setError] = useState<unknown>(null);
  const sets = plant.data?.services.flatMap((s) => s.sets) ?? [];
  const given = asked !== null ? sets.find((s) => s.id === asked) : undefined;
  const at = where ?? (given ? { set_id: given.id, word: given.tag } : null);
  const found = text.value.trim()
    ? findSets(sets, text.value).slice(0, 8)
    : sets.filter((s) => s.role !== "standby").slice(0, 8);
  const services = (plant.data?.services ?? [])
    .filter((s) => !text.value.trim() || s.name.toLowerCase().includes(text.value.trim().toLowerCase()))
    .slice(0, 3);
  const call = async (complaint: string) => {
    if (!at) return;
    const uuid = crypto.randomUUID();
    const place = { set_id: at.set_id, service_id: at.service_id, room: at.room ?? "" };
    setError(null);
    setSent({ uuid, matter: null });
    try {
      const matter = await outbox.write(
        "POST",
        address("/api/v1/sites/{site_id}/calls", { site_id: site.id }),
        { uuid, at: now().toISOString(), complaint, note: "", picture: "", ...place },
        `call, ${at.word}`,
        uuid,
      );
      setSent({ uuid, matter });
      text.done("");
      await renew(client, { site: site.id });
    } catch (e) {
      setError(e);
      setSent(null);
    }
  };
  if (sent)
    return (
      <Sent
        site={site}
        uuid={sent.uuid}
        matter={sent.matter}
        word={at?.word ?? ""}
        again={() => {
          setSent(null);
          setWhere(null);
        }}
      />
    );
  return (
    <div className={css.callpage}>
      <h1>
        {at ? (
          <>
            What is wrong at <span className="mono">{at.word}</span>?{" "}
            <button
              className={`linklike ${small.plainText}`}

              onClick={() => setWhere({ word: "" })}
            >
              Change location
            </button>
          </>
        ) : (
          "Where is the fault?"
        )}
      </h1>
      {!at || at.word === "" ? (
        <>
          <div className="field">
            <label htmlFor="call-where">Tag, location, nickname, service, or room</label>
            <input
              id="call-where"
              autoComplete="off"
              value={text.value}
              onChange={(e) => text.change(e.target.value)}
            />
          </div>
          <ul className={css.taplist} aria-label="Sets, services, rooms">
            {found.map((s) => (
              <li key={s.id}>
                <button onClick={() => setWhere({ set_id: s.id, word: s.tag })}>
                  <VerdictShape verdict={s.verdict} /> <span className="mono">{s.tag}</span> {s.name}{" "}
                  <span className="mute">{s.place}</span>
                </button>
              </li>
            ))}
            {services.map((s) => (
              <li key={`s${s.id}`}>
                <button onClick={() => setWhere({ service_id: s.id, word: s.name })}>
                  {s.name} <span className="mute">whole service</span>
                </button>
              </li>
            ))}
            {text.value.trim().length > 2 && (
              <li>
                <button onClick={() => setWhere({ room: text.value.trim(), word: text.value.trim() })}>
                  “{text.value.trim()}” <span className="mute">use as location</span>
                </button>
              </li>
            )}
          </ul>
        </>
      ) : (
        <ul className={`${css.taplist} ${css.two}`} aria-label="Symptoms">
          {(words.data?.complaints ?? []).map((c) => (
            <li key={c.id}>
              <button onClick={() => void call(c.id)}>{c.title}</button>
            </li>
          ))}
        </ul>
      )}
      <Complaint error={error} />
      <OpenMatters site={site} />
    </div>
  );
}
function Sent({
  site,
  uuid,
  matter,
  word,
  again,
}: {
  site: Site;
  uuid: string;
  matter: Matter | null;
  word: string;
  again: () => void;
}) {
  const client = useQueryClient();
  const [note, setNote] = useState("");
  const [picture, setPicture] = useState("");
  const [told, setTold] = useState<Matter | null>(matter);
  const [error, setError] = useState<unknown>(null);
  const now = told ?? matter;
  const more = async () => {
    setError(null);
    try {
      setTold(
        await outbox.write(
          "POST",
          address("/api/v1/calls/{uuid}/more", { uuid }),
          { note, picture },
          `call, ${word}: details`,
        ),
      );
      await renew(client, "anything");
    } catch (e) {
      setError(e);
    }
  };
  return (
    <div className={css.callpage}>
      <h1>
        {now ? "Call sent. It is shown on Plant." : "Stored on this device. Sending…"}{" "}
        <span className="mono">{word}</span>
      </h1>
      {now && <MatterBox matter={now} may={false} />}
      <div className="field">
        <label htmlFor="call-note">Details (optional)</label>
        <textarea
          id="call-note"
          rows={2}
          maxLength={500}
          value={note}
          onChange={(e) => setNote(e.target.value)}
        />
      </div>
      <PictureField id="call-picture" siteId={site.id} value={picture} onChange={setPicture} />
      <Complaint error={error} />
      <div className={`savebar ${small.fromLeft}`}>
        <Act
          className="btn-ink"
          waits={
            (!now && "The call itself is not sent yet.") ||
            (!note.trim() && !picture && "Enter details or add a photo first.")
          }
          onClick={() => void more()}
        >
          Add to call
        </Act>
        <button className="btn-line" onClick={again}>
          New call
        </button>
        <Link to="/">Back to Plant</Link>
      </div>
      {told && told !== matter && <p role="status">Added.</p>}
    </div>
  );
}
function OpenMatters({ site }: { site: Site }) {
  const matters = useSiteSafety(site.id).data?.matters ?? [];
  if (!matters.length) return null;
  return (
    <section className="ruled" aria-labelledby="open-calls">
      <h2 id="open-calls">Open calls</h2>
      {matters.map((m) => (
        <MatterBox key={m.id} matter={m} may={site.role !== "viewer"} />
      ))}
    </section>
  );
}
