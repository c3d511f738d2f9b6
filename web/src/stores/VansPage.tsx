/** The vans' shims: each van a box with its sizes as piles, counted with two keys; what runs low, where it went. */
import { useState } from "react";
import { useQueryClient } from "@tanstack/react-query";
import {
  Act,
  SENDING,
  FigureInput,
  address,
  Complaint,
  CsvFiles,
  dayTime,
  outbox,
  Ready,
  renew,
  useGet,
  useMe,
  useSmallForm,
  useSymbols,
  VerdictShape,
} from "../base";
import { chosenSite, useSites } from "../plant";
import { pile, type Lot, type Van } from "./logic";
import css from "./vans.module.scss";

export function VansPage() {
  const site = chosenSite(useSites().data);
  const shelf = useGet("/api/v1/sites/{site_id}/vans", site ? { site_id: site.id } : null);
  return (
    <div className="vans">
      <h1>Van shim stock</h1>
      {site && (
        <Ready query={shelf} what="Loading vans">
          {(s) => (
            <>
              {s.vans.length === 0 && (
                <div className="emptyword">
                  <p>
                    No van yet. Add one, measure its shims with a micrometer and count them. Shim plans use
                    this stock. Go by measured thickness, not by the marking.
                  </p>
                </div>
              )}
              {s.vans.map((v) => (
                <Box key={v.id} van={v} may={s.may} units={s.units} zone={site.time_zone} />
              ))}
              {s.may && <NewVan site={site.id} />}
              <CsvFiles<{ lines: number }>
                site={site.id}
                out={`/api/v1/sites/${site.id}/vans.csv`}
                into={s.may ? `/api/v1/sites/${site.id}/vans/file` : null}
                label="Stock file"
                taken={(answer) => `${answer.lines} lines imported.`}
              />
            </>
          )}
        </Ready>
      )}
    </div>
  );
}
function Pile({ lot }: { lot: Lot }) {
  const { sheets, thick } = pile(lot);
  return (
    <svg className={css.pile} viewBox="0 0 96 84" aria-hidden="true">
      <path className={css.base} d="M4 80H92" />
      {Array.from({ length: sheets }, (_, i) => (
        <rect key={i} x={14 + (i % 2) * 2} y={80 - (i + 1) * (thick + 1)} width={66} height={thick} />
      ))}
      {sheets === 0 && <rect className={css.gone} x={14} y={70} width={66} height={9} />}
    </svg>
  );
}
export function Box({ van, may, units, zone }: { van: Van; may: boolean; units: string[]; zone: string }) {
  const client = useQueryClient();
  const me = useMe();
  const symbols = useSymbols();
  const [error, setError] = useState<unknown>(null);
  const form = useSmallForm(`van:${van.id}`, {
    text: "",
    unit: me.units.length ?? "mm",
    count: "",
    least: "",
  });
  const set = async (lot: Lot, count: number) => {
    setError(null);
    try {
      await outbox.write(
        "PUT",
        address("/api/v1/vans/{van_id}/shims", { van_id: van.id }),
        { size: lot.typed, count },
        `${van.name}, ${lot.size.shown}`,
      );
      await renew(client, "anything");
    } catch (e) {
      setError(e);
    }
  };
  const add = () =>
    void form.send(
      "PUT",
      address("/api/v1/vans/{van_id}/shims", { van_id: van.id }),
      {
        size: { text: form.v.text, unit: form.v.unit },
        count: Number(form.v.count),
        ...(form.v.least ? { least: Number(form.v.least) } : {}),
      },
      `${van.name}, counted`,
    );
  const whole = /^\d{1,4}$/;
  const waits =
    (form.busy && SENDING) ||
    (!form.v.text.trim() && "Enter the thickness first.") ||
    (!whole.test(form.v.count) && "Enter how many shims, as a whole number.") ||
    (form.v.least !== "" && !whole.test(form.v.least) && "Reorder below: a whole number, or nothing.");
  return (
    <section className={css.vanbox} aria-label={van.name}>
      <h2 className={css.vanname}>{van.name}</h2>
      <ul className={css.lots}>
        {van.lots.map((lot) => (
          <li
            key={lot.tenths}
            data-size={lot.tenths}
            data-verdict={lot.verdict}
            className={`v-${lot.verdict}`}
          >
            <Pile lot={lot} />
            <strong className="mono">{lot.size.shown}</strong>
            <span className={css.count}>
              {may && lot.count > 0 && (
                <button
                  className="btn-line"
                  aria-label={`remove one ${lot.size.shown}`}
                  onClick={() => void set(lot, lot.count - 1)}
                >
                  −
                </button>
              )}
              <span className="mono" aria-label="shims">
                {lot.count}
              </span>
              {may && (
                <button
                  className="btn-line"
                  aria-label={`add one ${lot.size.shown}`}
                  onClick={() => void set(lot, lot.count + 1)}
                >
                  +
                </button>
              )}
            </span>
            {lot.verdict !== "good" && (
              <span className={css.low}>
                <VerdictShape verdict={lot.verdict} /> {lot.says}
              </span>
            )}
          </li>
        ))}
      </ul>
      <Complaint error={error} />
      {may && (
        <div className={css.measured}>
          <span className="dimfield">
            <label htmlFor={`size-${van.id}`}>thickness, measured</label>
            <span className="setupfield">
              <FigureInput
                id={`size-${van.id}`}
                label="thickness, measured"
                value={form.v}
                unit={form.v.unit}
                units={units}
                symbols={symbols}
                unitClass="inline-select"
                digits
                onChange={(typed) => form.set({ text: typed?.text ?? "" })}
                onUnit={(unit) => form.set({ unit })}
              />
            </span>
          </span>
          <span className="dimfield">
            <label htmlFor={`count-${van.id}`}>shims</label>
            <input
              id={`count-${van.id}`}
              className="mono"
              inputMode="numeric"
              value={form.v.count}
              onChange={(e) => form.set({ count: e.target.value })}
            />
          </span>
          <span className="dimfield">
            <label htmlFor={`least-${van.id}`}>reorder below</label>
            <input
              id={`least-${van.id}`}
              className="mono"
              inputMode="numeric"
              value={form.v.least}
              onChange={(e) => form.set({ least: e.target.value })}
            />
          </span>
          <Act className="btn-ink" waits={waits} onClick={add}>
            Set count
          </Act>
          <Complaint error={form.error} />
        </div>
      )}
      {van.moves.length > 0 && (
        <details className="spared">
          <summary>Stock movements</summary>
          <ul className="notes">
            {van.moves.map((m, i) => (
              <li key={i}>
                <span className="mono">{dayTime(m.at, zone, me.locale)}</span>{" "}
                <span className="mono">
                  {m.change > 0 ? `+${m.change}` : `−${-m.change}`} × {m.size}
                </span>{" "}
                {m.why}, {m.by}
              </li>
            ))}
          </ul>
        </details>
      )}
    </section>
  );
}
function NewVan({ site }: { site: number }) {
  const form = useSmallForm(`newvan:${site}`, { name: "" });
  return (
    <div className={`noteline ${css.newvan}`}>
      <div className="field">
        <label htmlFor="van-name">New van</label>
        <input
          id="van-name"
          maxLength={60}
          value={form.v.name}
          onChange={(e) => form.set({ name: e.target.value })}
        />
      </div>
      <Act
        waits={(form.busy && SENDING) || (!form.v.name.trim() && "Enter the name of the van first.")}
        onClick={() =>
          void form.send(
            "POST",
            address("/api/v1/sites/{site_id}/vans", { site_id: site }),
            form.v,
            `van ${form.v.name}`,
          )
        }
      >
        Add van
      </Act>
      <Complaint error={form.error} />
    </div>
  );
}
