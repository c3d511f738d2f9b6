/** The register as a file, out and in. */
import { useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { Complaint, renew, sendFile } from "../base";

export function RegisterFiles({ site, may, any }: { site: number; may: boolean; any: boolean }) {
  const client = useQueryClient();
  const pick = useRef<HTMLInputElement>(null);
  const [error, setError] = useState<unknown>(null);
  const [said, setSaid] = useState("");
  const bring = async (file: File) => {
    setError(null);
    setSaid("");
    try {
      const got = (await sendFile(`/api/v1/sites/${site}/instruments/file`, {}, file)) as {
        instruments: number;
      };
      setSaid(`${got.instruments} instruments imported.`);
      await renew(client, { site });
    } catch (e) {
      setError(e);
    }
  };
  if (!may && !any) return null;
  return (
    <p className="rowflex">
      {any && (
        <a className="btn-line" href={`/api/v1/sites/${site}/instruments.csv`}>
          Export CSV
        </a>
      )}
      {may && (
        <>
          <button className="btn-line" onClick={() => pick.current?.click()}>
            Import CSV
          </button>
          <input
            ref={pick}
            type="file"
            hidden
            accept=".csv,text/csv"
            aria-label="Register file"
            onChange={(e) => {
              const f = e.target.files?.[0];
              e.target.value = "";
              if (f) void bring(f);
            }}
          />
        </>
      )}
      {said && <span role="status">{said}</span>}
      <Complaint error={error} />
    </p>
  );
}
