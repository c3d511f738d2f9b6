/** The loops of a site: each drawn as its pipe with the sets on it, described in place. */
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useParams } from "react-router";
import { Ready, useGet, useSymbols, type Schemas } from "../../base";
import { LoopForm } from "./LoopForm";
import css from "./loops.module.scss";

type Loop = Schemas["LoopOut"];

export function LoopsPage() {
  const site = Number(useParams().siteId);
  const loops = useGet("/api/v1/sites/{site_id}/loops", { site_id: site });
  return (
    <div className={css.page}>
      <h1>Loops</h1>
      <p className="mute">
        A closed loop is a thing of its own: its water, its vessel, its highest point. Pressures of every set
        on it are held against them.
      </p>
      <Ready query={loops} what="Loading loops">
        {(told) => <Listed site={site} loops={told.loops} may={told.may} />}
      </Ready>
    </div>
  );
}
function Listed({ site, loops, may }: { site: number; loops: readonly Loop[]; may: boolean }) {
  const client = useQueryClient();
  const symbols = useSymbols();
  const [open, setOpen] = useState<number | "new" | null>(null);
  const done = async () => {
    await client.invalidateQueries({ queryKey: ["/api/v1/sites/{site_id}/loops"] });
    setOpen(null);
  };
  return (
    <>
      {loops.length === 0 && (
        <div className="emptyword">
          <p>No loop yet. {may ? "Add one: from then on a pressure says litres." : "A lead adds one."}</p>
        </div>
      )}
      <ul className={css.loops}>
        {loops.map((l) => (
          <li key={l.id} data-loop={l.name}>
            <Sketch loop={l} />
            <div>
              <strong>{l.name}</strong> <span className="mono">{l.tags.join(", ") || "no set yet"}</span>
              <p className="mute">
                {wordsOf(l, symbols)}
                {l.by && `. Version ${String(l.version)}, ${l.by}`}
              </p>
              {may && open !== l.id && (
                <button type="button" className="btn-line" onClick={() => setOpen(l.id)}>
                  Edit
                </button>
              )}
              {open === l.id && <LoopForm site={site} loop={l} done={() => void done()} />}
            </div>
          </li>
        ))}
      </ul>
      {may && open !== "new" && (
        <button type="button" className="btn-line" onClick={() => setOpen("new")}>
          Add a loop
        </button>
      )}
      {open === "new" && <LoopForm site={site} loop={null} done={() => void done()} />}
    </>
  );
}
/** What is entered of it, as it was typed. */
function wordsOf(l: Loop, symbols: Record<string, string>): string {
  const plate = l.plate as Record<string, { text?: string; unit?: string } | string | null | undefined>;
  const figure = (name: string): string => {
    const v = plate[name];
    return v && typeof v === "object"
      ? [v.text, v.unit && (symbols[v.unit] ?? v.unit)].filter(Boolean).join(" ")
      : "";
  };
  const rows: [string, string][] = [
    ["volume", figure("volume")],
    ["vessel", figure("vessel")],
    ["precharge", figure("precharge")],
    ["highest point", figure("high_point")],
  ];
  const said = rows.filter(([, v]) => v).map(([n, v]) => `${n} ${v}`);
  return said.length ? said.join(", ") : "not described yet";
}
function Sketch({ loop }: { loop: Loop }) {
  return (
    <svg viewBox="0 0 120 64" width="120" aria-hidden="true">
      <path className={css.pipe} d="M14 50V12H106V50H14" />
      {loop.tags.slice(0, 3).map((t, i) => (
        <circle key={t} className={css.pump} cx={38 + i * 24} cy="50" r="8" />
      ))}
    </svg>
  );
}
