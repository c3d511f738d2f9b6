/** Where the settings come from: the drive itself by the worker, a file, or the keypad read out by hand. */
import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { Link } from "react-router";
import { Act, address, Complaint, outbox, sendFile, useGet, type Schemas } from "../../base";
import { useTools } from "../../safety";
import css from "./drawing.module.scss";

type Told = Schemas["SettingsOut"];
interface Props {
  take: (settings: Record<string, string>, from: "network" | "file", family: string) => void;
  settings: Record<string, string>;
}
export function Reading({ take, settings }: Props) {
  const { given, may } = useTools();
  const client = useQueryClient();
  const [asked, setAsked] = useState<number | null>(null);
  const [error, setError] = useState<unknown>(null);
  const [problems, setProblems] = useState<string[]>([]);
  const pick = useRef<HTMLInputElement>(null);
  const drive = useGet(
    "/api/v1/sets/{set_id}/drive",
    { set_id: given.set.id },
    { refetchInterval: () => (asked === null ? false : 700) },
  );
  const last = drive.data?.last;
  useEffect(() => {
    if (asked === null || last?.id !== asked || last.state === "waiting") return;
    setAsked(null);
    setProblems(last.failed ? [last.failed] : last.problems.map((p) => p.message));
    if (Object.keys(last.settings).length) take(last.settings, "network", last.family);
  }, [asked, last, take]);
  if (!may) return null;
  const ask = async () => {
    setError(null);
    setProblems([]);
    try {
      const path = address("/api/v1/sets/{set_id}/drive-readings", { set_id: given.set.id });
      const made = await outbox.write("POST", path, undefined, `${given.set.tag}: read the drive`);
      setAsked(made.id);
      await client.invalidateQueries({ queryKey: ["/api/v1/sets/{set_id}/drive"] });
    } catch (e) {
      setError(e);
    }
  };
  const file = async (chosen: File) => {
    setError(null);
    try {
      const told = (await sendFile("/api/v1/drives/file", {}, chosen)) as Told;
      setProblems(told.problems.map((p) => p.message));
      take(told.settings, "file", "");
    } catch (e) {
      setError(e);
    }
  };
  const site = given.set.site_id;
  const admin = given.set.may === "admin";
  return (
    <div className={css.sources} data-reading={asked === null ? "idle" : "waiting"}>
      <Act
        className="btn-line"
        waits={
          asked !== null
            ? "Reading the drive."
            : drive.data && !drive.data.listed
              ? "Not on the list of drives that are read."
              : false
        }
        onClick={() => void ask()}
      >
        Read from the drive
      </Act>
      <button className="btn-line" type="button" onClick={() => pick.current?.click()}>
        Import CSV
      </button>
      <input
        ref={pick}
        type="file"
        hidden
        accept=".csv,text/csv"
        aria-label="Drive settings as a file"
        onChange={(e) => {
          const chosen = e.target.files?.[0];
          e.target.value = "";
          if (chosen) void file(chosen);
        }}
      />
      <button className="btn-line" type="button" onClick={() => void download(settings)}>
        Export CSV
      </button>
      {admin && <Link to={`/drives/${site}`}>Addresses of drives</Link>}
      <Complaint error={error} />
      {problems.length > 0 && (
        <div className="notice bad" role="alert" data-testid="answered">
          {problems.map((p) => (
            <div key={p}>{p}</div>
          ))}
        </div>
      )}
    </div>
  );
}
/** The sheet as it stands, as a file on this device. */
async function download(settings: Record<string, string>) {
  const path = address("/api/v1/drives/file.csv", {});
  const told = await outbox.write("POST", path, { settings }, "settings as a file");
  const link = document.createElement("a");
  link.href = URL.createObjectURL(new Blob([`\ufeff${told.text}`], { type: "text/csv" }));
  link.download = "drive-settings.csv";
  link.click();
  URL.revokeObjectURL(link.href);
}
