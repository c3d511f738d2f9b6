/** A lock is its owner's: on a tablet of several people whoever holds it shows first that it is he. */
import { useState, type FormEvent } from "react";
import { send, type Schemas } from "../client";
import { Act, SENDING } from "../components/Act";
import { Complaint } from "../components/States";
import { useGoing } from "../going";
import { outbox, type Parcel } from "../outbox";
import { useSession } from "../session";
import { PinPad } from "./PinPad";

export function ShowAgain({ asks }: { asks: Parcel[] }) {
  const { me, renewed } = useSession();
  const [byWord, setByWord] = useState(me?.pin !== "set");
  const show = async (said: { pin: string } | { password: string }) =>
    renewed((await send("POST", "/api/v1/session/again", said)) as Schemas["SessionOut"]);
  return (
    <>
      <h1 id="show-title">Is it you, {me?.full_name}?</h1>
      <p>
        This tablet is shared. A lock is its owner’s, on and off: {asks.map((p) => p.label).join(", ")} waits
        for you.
      </p>
      {byWord ? (
        <ByWord go={(password) => show({ password })} />
      ) : (
        <PinPad label={`PIN of ${me?.full_name ?? ""}`} does="It is me" go={(pin) => show({ pin })} />
      )}
      <p className="rowflex">
        {!byWord && (
          <button className="linklike" onClick={() => setByWord(true)}>
            Show it by my password
          </button>
        )}
        <button className="linklike" onClick={() => void outbox.declined()}>
          Not me: leave the lock as it is
        </button>
      </p>
    </>
  );
}

function ByWord({ go }: { go: (word: string) => Promise<void> }) {
  const { me } = useSession();
  const [word, setWord] = useState("");
  const { busy, error, go: send } = useGoing();
  const submit = (e: FormEvent) => {
    e.preventDefault();
    void send(() => go(word));
  };
  return (
    <form onSubmit={submit}>
      <div className="field">
        <label htmlFor="show-word">Password of {me?.full_name}</label>
        <input
          id="show-word"
          type="password"
          autoComplete="current-password"
          required
          autoFocus
          value={word}
          onChange={(e) => setWord(e.target.value)}
        />
      </div>
      <Complaint error={error} />
      <Act className="btn-ink" waits={busy && SENDING}>
        It is me
      </Act>
    </form>
  );
}
