/** The cautions of a sheet: open until they were read on it, then one line that opens to the whole. */
import { useState } from "react";
import { small } from "../../base";
import s from "./frame.module.scss";
import css from "../safety.module.scss";

/** Which cautions were read by whom on which sheet, while this page of the browser lives: another sheet asks anew. */
const READ = new Set<string>();
/** The first sentence of them, and whether there is more. */
export function firstLine(lines: readonly string[]): [string, boolean] {
  const [first = ""] = lines;
  const end = first.search(/[.:] [A-Z]/);
  const line = end < 0 ? first : first.slice(0, end + 1);
  return [line, lines.length > 1 || line !== first];
}

export function Cautions({ sheet, lines }: { sheet: string; lines: readonly string[] }) {
  const [line, more] = firstLine(lines);
  const key = `${sheet}|${lines.join("|")}`;
  const [, turn] = useState(0);
  const read = READ.has(key);
  const say = (seen: boolean) => {
    if (seen) READ.add(key);
    else READ.delete(key);
    turn((n) => n + 1);
  };
  return (
    <div className={css.cautions} role="note" aria-label="Cautions">
      {read ? (
        <p>
          <span aria-hidden="true">▲ </span>
          {line}{" "}
          <button className="linklike" aria-expanded={false} onClick={() => say(false)}>
            {more ? "all cautions" : "open"}
          </button>
        </p>
      ) : (
        <>
          {lines.map((c) => (
            <p key={c}>{c}</p>
          ))}
          {more && (
            <button
              className={`linklike ${s.read} ${small.below}`}
              aria-expanded={true}
              onClick={() => say(true)}
            >
              Read: fold to one line
            </button>
          )}
        </>
      )}
    </div>
  );
}
