/** A first survey, led: the places in their order along a rail, the one in hand with its fields. */
import { useState } from "react";
import type { EntryBody, Schemas } from "../../base";
import { NamedFigure, useTools } from "../../safety";
import type { Row } from "../rows";
import css from "../water.module.scss";

interface Props {
  view: Schemas["ShownDutyView"] | null;
  body: EntryBody<"duty">;
  row: (list: string, at: number, more: Row) => void;
}
export function Survey({ view, body, row }: Props) {
  const { may } = useTools();
  const rows = body.survey ?? [];
  const places = view?.survey ?? [];
  const [open, setOpen] = useState("");
  const place = (id: string) => {
    const at = rows.findIndex((r) => r.at === id);
    return at < 0 ? rows.length : at;
  };
  const take = (id: string) => {
    if (!rows.some((r) => r.at === id)) row("survey", rows.length, { at: id });
    setOpen(id);
  };
  return (
    <details className={css.more} open={rows.length > 0 || undefined}>
      <summary>First survey: makes every later reading of this set comparable</summary>
      <ol className={css.steps} data-survey>
        {places.map((p) => (
          <li key={p.id} data-state={p.state} data-place={p.id}>
            <p>
              <strong>{p.title}</strong> {p.head && <span className="mono">{p.head.shown}</span>}{" "}
              {p.amps && <span className="mono">{p.amps.shown}</span>}
            </p>
            <p className="mute">{p.how}</p>
            {open === p.id || (rows.some((r) => r.at === p.id) && p.state !== "done") ? (
              <div className={css.row}>
                {p.id !== "uncoupled" && (
                  <NamedFigure name={`survey.${String(place(p.id))}.suction`} label="suction" />
                )}
                {p.id !== "uncoupled" && (
                  <NamedFigure name={`survey.${String(place(p.id))}.discharge`} label="discharge" />
                )}
                {p.id !== "standing" &&
                  [1, 2, 3].map((n) => (
                    <NamedFigure
                      key={n}
                      name={`survey.${String(place(p.id))}.amps_${String(n)}`}
                      label={`L${String(n)}`}
                    />
                  ))}
                {p.id !== "standing" && p.id !== "uncoupled" && (
                  <NamedFigure name={`survey.${String(place(p.id))}.turns`} label="turns open" />
                )}
              </div>
            ) : (
              may && (
                <button type="button" className="btn-line" onClick={() => take(p.id)}>
                  {p.state === "done" ? "Correct" : "Read here"}
                </button>
              )
            )}
          </li>
        ))}
      </ol>
    </details>
  );
}
