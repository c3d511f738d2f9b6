/** Spares on their shelves and in the vans: what has to be ordered first, why so many are kept, counted with a thumb. */
import { useState } from "react";
import { Link, useSearchParams } from "react-router";
import {
  Act,
  address,
  Complaint,
  CsvFiles,
  dayTime,
  outbox,
  Ready,
  renew,
  SENDING,
  useGet,
  useMe,
  useSmallForm,
  VerdictShape,
  type Schemas,
} from "../base";
import { useQueryClient } from "@tanstack/react-query";
import { chosenSite, useSites } from "../plant";
import { Kits } from "./Kits";
import { Figures, NewPart, Word } from "./PartForms";
import css from "./stores.module.scss";

type Spare = Schemas["SpareOut"];
type Stores = Schemas["StoresOut"];

export function StoresPage() {
  const site = chosenSite(useSites().data);
  const told = useGet("/api/v1/sites/{site_id}/stores", site ? { site_id: site.id } : null);
  return (
    <div className={css.page}>
      <h1>Stores</h1>
      {site && (
        <Ready query={told} what="Loading stores">
          {(s) => <Shelves stores={s} site={site.id} zone={site.time_zone} />}
        </Ready>
      )}
    </div>
  );
}
function Shelves({ stores, site, zone }: { stores: Stores; site: number; zone: string }) {
  const [search, setSearch] = useSearchParams();
  const one = Number(search.get("part")) || null;
  const [words, setWords] = useState("");
  const seen = stores.parts.filter(
    (p) =>
      (one === null || p.id === one) &&
      `${p.code} ${p.title} ${p.lines.join(" ")}`.toLowerCase().includes(words.trim().toLowerCase()),
  );
  const order = stores.parts.filter((p) => p.order > 0);
  return (
    <>
      <p className="statesentence">
        {stores.parts.length} parts in {stores.places.length} places.{" "}
        {order.length > 0 && (
          <strong>To order: {order.map((p) => `${String(p.order)} × ${p.code}`).join(", ")}.</strong>
        )}{" "}
        <Link to="/vans">Van shims</Link> ·{" "}
        <a href={`/api/v1/sites/${String(site)}/parts/labels.pdf`}>Labels, PDF</a>
        {one !== null && (
          <>
            {" · "}
            <button type="button" className="linklike" onClick={() => setSearch({})}>
              All parts
            </button>
          </>
        )}
      </p>
      {stores.parts.length === 0 && (
        <div className="emptyword">
          <p>No part yet. Add one, or import a list: code, title, place, count. Jobs reserve from here.</p>
        </div>
      )}
      {one === null && <Kits kits={stores.kits} parts={stores.parts} site={site} may={stores.may} />}
      {stores.parts.length > 8 && one === null && (
        <div className="field">
          <label htmlFor="find-part">Find a part</label>
          <input id="find-part" value={words} onChange={(e) => setWords(e.target.value)} />
        </div>
      )}
      <ul className={css.parts} aria-label="Parts">
        {seen.map((p) => (
          <li key={p.id} data-spare={p.code} data-verdict={p.verdict}>
            <Shelf part={p} may={stores.may} places={stores.places} zone={zone} open={one === p.id} />
          </li>
        ))}
      </ul>
      {stores.may && <NewPart site={site} />}
      <CsvFiles<Stores>
        site={site}
        out={`/api/v1/sites/${site}/parts.csv`}
        into={stores.may ? `/api/v1/sites/${site}/parts/file` : null}
        label="Parts file"
        taken={(s) => `${s.parts.length} parts on the shelves.`}
      />
    </>
  );
}
/** The level of a part against its least and most, as a gauge glass. */
function Glass({ part }: { part: Spare }) {
  const top = Math.max(part.most ?? 0, ...part.stock.map((s) => s.count), 1);
  const count = part.stock.reduce((sum, s) => sum + s.count, 0);
  const held = part.stock.reduce((sum, s) => sum + s.reserved, 0);
  const y = (n: number): number => 58 - (52 * Math.min(Math.max(n, 0), top)) / top;
  return (
    <svg className={css.glass} viewBox="0 0 40 64" aria-hidden="true">
      <path className={css.level} d={`M8 58V${String(y(count))}H24V58Z`} />
      {held > 0 && (
        <path
          className={css.held}
          d={`M8 ${String(y(count))}V${String(y(count - held))}H24V${String(y(count))}Z`}
        />
      )}
      <path className={css.wall} d="M8 4V58H24V4" />
      {part.least !== null && <path className={css.mark} d={`M4 ${String(y(part.least))}H34`} />}
    </svg>
  );
}
function Shelf({
  part,
  may,
  places,
  zone,
  open,
}: {
  part: Spare;
  may: boolean;
  places: string[];
  zone: string;
  open: boolean;
}) {
  const client = useQueryClient();
  const { locale } = useMe();
  const [error, setError] = useState<unknown>(null);
  const form = useSmallForm(`part:${String(part.id)}`, {
    place: part.stock[0]?.place ?? "",
    count: "",
    emergency: "",
    from: "",
    to: "",
    n: "",
  });
  // Each tap says one more or one less, never a whole count: two quick ones are two.
  const tap = async (place: string, change: number) => {
    const key = crypto.randomUUID();
    setError(null);
    try {
      await outbox.write(
        "POST",
        address("/api/v1/parts/{part_id}/tally", { part_id: part.id }),
        { place, change, key },
        `${part.code}, ${place}`,
        key,
      );
      await renew(client, "anything");
    } catch (e) {
      setError(e);
    }
  };
  const whole = /^\d{1,5}$/;
  return (
    <>
      <Glass part={part} />
      <div>
        <p className={css.name}>
          <VerdictShape verdict={part.verdict} /> <strong className="mono">{part.code}</strong> {part.title}
        </p>
        <p className={`v-${part.verdict}`}>{part.says}</p>
        <p className="mute">
          {part.why || (part.asks.length > 0 && `Enter ${part.asks.join(", ")}`)}
          {part.least !== null && ` Least ${String(part.least)}`}
          {part.most !== null && `, most ${String(part.most)}`}
          {part.least_set && " (set by the site)"}
          {part.lines.length > 0 && `. Fills ${part.lines.join(", ").replace(/_/g, " ")}`}
          {part.fits.length > 0 && `. Fits ${part.fits.join(", ").replace(/_/g, " ")}`}
        </p>
        <ul className={css.places}>
          {part.stock.map((s) => (
            <li key={s.place} data-place={s.place}>
              {may && s.count > 0 && (
                <button
                  type="button"
                  className="btn-line"
                  aria-label={`one ${part.code} less in ${s.place}`}
                  onClick={() => void tap(s.place, -1)}
                >
                  −
                </button>
              )}
              <span className="mono" aria-label={`${part.code} in ${s.place}`}>
                {s.count}
              </span>
              {may && (
                <button
                  type="button"
                  className="btn-line"
                  aria-label={`one ${part.code} more in ${s.place}`}
                  onClick={() => void tap(s.place, 1)}
                >
                  +
                </button>
              )}
              {s.place}
              {s.reserved > 0 && <span className="mute">, {s.reserved} reserved</span>}
              {s.emergency > 0 && <span className="mute">, {s.emergency} emergency only</span>}
            </li>
          ))}
        </ul>
        {may && (
          <details open={open || undefined}>
            <summary>Count, move</summary>
            <datalist id={`places${String(part.id)}`}>
              {places.map((x) => (
                <option key={x} value={x} />
              ))}
            </datalist>
            <div className={css.row}>
              <Word
                id={`pl${String(part.id)}`}
                label="Shelf or van"
                value={form.v.place}
                set={(place) => form.set({ place })}
                list={`places${String(part.id)}`}
              />
              <Word
                id={`ct${String(part.id)}`}
                label="Counted"
                value={form.v.count}
                set={(v) => form.set({ count: v })}
                numeric
              />
              <Word
                id={`em${String(part.id)}`}
                label="Emergency only"
                value={form.v.emergency}
                set={(v) => form.set({ emergency: v })}
                numeric
              />
              <Act
                waits={
                  (form.busy && SENDING) ||
                  (!form.v.place.trim() && "Enter the place.") ||
                  (!whole.test(form.v.count) && "Enter how many, as a whole number.") ||
                  (form.v.emergency.trim() !== "" &&
                    !whole.test(form.v.emergency) &&
                    "Emergency only: a whole number, or nothing.")
                }
                onClick={() =>
                  void form.send(
                    "PUT",
                    address("/api/v1/parts/{part_id}/count", { part_id: part.id }),
                    {
                      place: form.v.place,
                      count: Number(form.v.count),
                      ...(whole.test(form.v.emergency) ? { emergency: Number(form.v.emergency) } : {}),
                    },
                    `${part.code}, counted`,
                  )
                }
              >
                Save count
              </Act>
            </div>
            <div className={css.row}>
              <Word
                id={`fr${String(part.id)}`}
                label="From"
                value={form.v.from}
                set={(from) => form.set({ from })}
                list={`places${String(part.id)}`}
              />
              <Word
                id={`to${String(part.id)}`}
                label="To"
                value={form.v.to}
                set={(to) => form.set({ to })}
                list={`places${String(part.id)}`}
              />
              <Word
                id={`nn${String(part.id)}`}
                label="How many"
                value={form.v.n}
                set={(n) => form.set({ n })}
                numeric
              />
              <Act
                waits={
                  (form.busy && SENDING) ||
                  ((!form.v.from.trim() || !form.v.to.trim()) && "Enter from where and to where.") ||
                  (!whole.test(form.v.n) && "Enter how many.")
                }
                onClick={() =>
                  void form.send(
                    "POST",
                    address("/api/v1/parts/{part_id}/move", { part_id: part.id }),
                    { source: form.v.from, to: form.v.to, count: Number(form.v.n) },
                    `${part.code}, moved`,
                  )
                }
              >
                Move
              </Act>
            </div>
            <Figures part={part} />
          </details>
        )}
        <Complaint error={error ?? form.error} />
        {part.moves.length > 0 && (
          <details className="mute">
            <summary>What moved</summary>
            <ul>
              {part.moves.map((m, i) => (
                <li key={i}>
                  {dayTime(m.at, zone, locale)}: {m.change > 0 ? "+" : "−"}
                  {Math.abs(m.change)} {m.place}, {m.why}, {m.by}
                </li>
              ))}
            </ul>
          </details>
        )}
      </div>
    </>
  );
}
