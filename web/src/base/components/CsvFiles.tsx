/** What the site keeps as a file: out, and in again, all or nothing. */
import { useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { renew } from "../changes";
import { sendFile } from "../client";
import { Complaint } from "./States";

interface Props<A> {
  site: number;
  /** Where it comes from, and where it goes; none: it does not. */
  out: string | null;
  into: string | null;
  /** What the file is called to who cannot see where it stands. */
  label: string;
  taken: (answer: A) => string;
  /** What is brought in; a table where nothing else is said. */
  brings?: { words: string; accept: string };
}
const TABLE = { words: "Import CSV", accept: ".csv,text/csv" };
export function CsvFiles<A>({ site, out, into, label, taken, brings = TABLE }: Props<A>) {
  const client = useQueryClient();
  const pick = useRef<HTMLInputElement>(null);
  const [error, setError] = useState<unknown>(null);
  const [said, setSaid] = useState("");
  const bring = async (to: string, file: File) => {
    setError(null);
    setSaid("");
    try {
      setSaid(taken((await sendFile(to, {}, file)) as A));
      await renew(client, { site });
    } catch (e) {
      setError(e);
    }
  };
  return (
    <p className="rowflex">
      {out !== null && (
        <a className="btn-line" href={out}>
          Export CSV
        </a>
      )}
      {into !== null && (
        <>
          <button className="btn-line" onClick={() => pick.current?.click()}>
            {brings.words}
          </button>
          <input
            ref={pick}
            type="file"
            hidden
            accept={brings.accept}
            aria-label={label}
            onChange={(e) => {
              const f = e.target.files?.[0];
              e.target.value = "";
              if (f) void bring(into, f);
            }}
          />
        </>
      )}
      {said && <span role="status">{said}</span>}
      <Complaint error={error} />
    </p>
  );
}
