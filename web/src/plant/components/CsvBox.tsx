/** The register as a file: download, look at what a file would do row by row, then do it whole or not at all. */
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { address, ApiError, Complaint, outbox, renew, small, type Schemas } from "../../base";
import type { Site } from "../queries";

type Import = Schemas["ImportOut"];
const MOST = 4_000_000;

async function textOf(file: File): Promise<string> {
  if (file.size > MOST) throw new ApiError(413, "file_large", "File too large for a register (limit 4 MB).");
  const bytes = new Uint8Array(await file.arrayBuffer());
  if (bytes.slice(0, 512).includes(0) || (bytes[0] === 0x50 && bytes[1] === 0x4b))
    throw new ApiError(
      415,
      "file_kind",
      "This is a spreadsheet or a picture, not CSV. Save it as CSV (UTF-8) and try again.",
    );
  return new TextDecoder("utf-8").decode(bytes);
}

/** What becomes of a row. */
const DOES: Record<string, string> = { same: "unchanged", changes: "changed", refused: "rejected" };
export function CsvBox({ site }: { site: Site }) {
  const client = useQueryClient();
  const [text, setText] = useState("");
  const [name, setName] = useState("");
  const [plan, setPlan] = useState<Import | null>(null);
  const [error, setError] = useState<unknown>(null);
  const ask = async (body: string, write: boolean) => {
    setError(null);
    try {
      const told = await outbox.write(
        "POST",
        address("/api/v1/sites/{site_id}/register.csv", { site_id: site.id }),
        { text: body, write },
        write ? "the register file" : "register file, check",
      );
      setPlan(told);
      if (write) await renew(client, { site: site.id });
    } catch (e) {
      setError(e);
    }
  };
  const take = async (file: File | undefined) => {
    if (!file) return;
    setPlan(null);
    setError(null);
    try {
      const body = await textOf(file);
      setText(body);
      setName(file.name);
      await ask(body, false);
    } catch (e) {
      setError(e);
    }
  };
  return (
    <section className="ruled" aria-labelledby="csv-title">
      <h2 id="csv-title">Import and export</h2>
      <p className={`rowflex ${small.apart}`}>
        <a className="btn-line" href={`/api/v1/sites/${site.id}/register.csv`} download="register.csv">
          Export CSV
        </a>
        <label className={`btn-line ${small.pressed}`}>
          Import CSV
          <input
            className="visually-hidden"
            type="file"
            accept=".csv,text/csv"
            onChange={(e) => {
              void take(e.target.files?.[0]);
              e.target.value = "";
            }}
          />
        </label>
        <span className="mute">
          One row per set. Put the unit after a bar: 11|kW. An exported file can be imported again.
        </span>
      </p>
      <Complaint error={error} />
      {plan && (
        <div data-testid="csv-plan">
          <p>
            <strong>{name}</strong>: {plan.new} new, {plan.changes} changed, {plan.same} unchanged,{" "}
            {plan.refused} rejected.{plan.written && " Saved."}
          </p>
          <div className={`scroll-x ${small.tall320}`}>
            <table className="plain">
              <thead>
                <tr>
                  <th>Line</th>
                  <th>Tag</th>
                  <th>Result</th>
                  <th />
                </tr>
              </thead>
              <tbody>
                {plan.rows
                  .filter((r) => r.does !== "same")
                  .map((r) => (
                    <tr key={r.line}>
                      <td className="mono">{r.line}</td>
                      <td className="mono">{r.tag}</td>
                      <td className={r.does === "refused" ? "v-act" : ""}>{DOES[r.does] ?? r.does}</td>
                      <td>{r.says}</td>
                    </tr>
                  ))}
              </tbody>
            </table>
          </div>
          {!plan.written &&
            plan.new + plan.changes > 0 &&
            (plan.refused ? (
              <p className="v-act">
                Nothing is imported while a row is rejected. Correct the file and import it again.
              </p>
            ) : (
              <button className="btn-ink" onClick={() => void ask(text, true)}>
                Import {plan.new + plan.changes} rows
              </button>
            ))}
        </div>
      )}
    </section>
  );
}
