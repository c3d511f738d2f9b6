/** Two secrets in a line: the one that is known, and what it is turned into. Neither is kept on the device. */
import { useState, type FormEvent, type HTMLAttributes } from "react";
import {
  Act,
  Complaint,
  problemOf,
  send,
  SENDING,
  useGoing,
  useSession,
  type ApiPath,
  type Schemas,
} from "../../base";
import css from "./account.module.scss";

interface Side {
  label: string;
  /** Under which name it is sent, and a refusal names it. */
  name: string;
  refusedAs?: string;
  complete: "current-password" | "new-password" | "off";
  mode?: HTMLAttributes<HTMLInputElement>["inputMode"];
}
interface Props {
  id: string;
  path: ApiPath;
  from: Side;
  to: Side;
  does: string;
  done: string;
  /** To have none at all. */
  drop?: { does: string; done: string };
}

export function Turn({ id, path, from, to, does, done, drop }: Props) {
  const { renewed } = useSession();
  const [old, setOld] = useState("");
  const [next, setNext] = useState("");
  const [told, setTold] = useState("");
  const { busy, error, go: going } = useGoing();
  const go = async (into: string, tell: string) => {
    setTold("");
    await going(async () => {
      const fresh = await send("POST", path, { [from.name]: old, [to.name]: into });
      setOld("");
      setNext("");
      setTold(tell);
      await renewed(fresh as Schemas["SessionOut"]);
    });
  };
  const saidOf = (side: Side) => problemOf(error, side.refusedAs ?? side.name);
  const field = (side: Side, key: string, value: string, put: (text: string) => void) => (
    <div className="field">
      <label htmlFor={`${id}-${key}`}>{side.label}</label>
      <input
        id={`${id}-${key}`}
        type="password"
        autoComplete={side.complete}
        {...(side.mode ? { inputMode: side.mode } : {})}
        required
        value={value}
        onChange={(e) => put(e.target.value)}
      />
      {saidOf(side) && <span className="bad">{saidOf(side)}</span>}
    </div>
  );
  const submit = (e: FormEvent) => {
    e.preventDefault();
    void go(next, done);
  };
  return (
    <form className={css.turn} onSubmit={submit}>
      {field(from, "old", old, setOld)}
      <span className={css.arrow} aria-hidden="true">
        →
      </span>
      {field(to, "new", next, setNext)}
      <Act className="btn-ink" waits={busy && SENDING}>
        {does}
      </Act>
      {drop && (
        <div className={`rowflex ${css.wide}`}>
          <Act
            type="button"
            className="linklike"
            waits={busy ? SENDING : !old && `${from.label} first.`}
            onClick={() => void go("", drop.done)}
          >
            {drop.does}
          </Act>
        </div>
      )}
      {!saidOf(from) && !saidOf(to) && <Complaint error={error} />}
      {told && (
        <p className={`notice ${css.wide}`} role="status">
          {told}
        </p>
      )}
    </form>
  );
}
