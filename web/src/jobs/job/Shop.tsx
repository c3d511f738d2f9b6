/** To the shop and back: what goes with it, what is asked back, what came and whether it is accepted. */
import { Act } from "../../base";
import { NamedFigure } from "../../safety";
import { isFigure, type Body, type Job, type Step, type View } from "./useJob";
import css from "./job.module.scss";

const WRITES = ["symptoms", "as found", "fluid", "cleaning note", "what is wanted"];
const REPORTS = [
  "clearances found and left",
  "run-outs",
  "bearing codes",
  "balance grade",
  "insulation",
  "test",
  "old parts",
];

export function Shop({ job, view, step }: { job: Job; view: View; step: Step }) {
  const sends = step.shop === "send";
  const list = sends ? WRITES : REPORTS;
  const value = (n: string) => String(job.typed[`shop:${n}`] ?? "");
  const ticked = value("wrote").split("|").filter(Boolean);
  const tick = (w: string, on: boolean) =>
    job.put("shop:wrote", (on ? [...ticked, w] : ticked.filter((x) => x !== w)).join("|"));
  const keep = (good?: "yes" | "no") => {
    const price = job.typed.price;
    job.say({
      kind: sends ? "sent" : "accepted",
      what: value("what") || view.title,
      ...(sends ? { shop: value("shop") } : {}),
      wrote: ticked,
      ...(sends && value("promised") ? { promised: value("promised") } : {}),
      ...(isFigure(price) ? { price } : {}),
      ...(good ? { good } : {}),
    } as Body);
    job.forget("shop:what", "shop:shop", "shop:wrote", "shop:promised", "price");
  };
  return (
    <section className={css.shop} aria-label={sends ? "To the shop" : "Back from the shop"}>
      {view.shop && (
        <p data-shop={view.shop.accepted === true ? "accepted" : "out"}>
          {view.shop.what} at {view.shop.shop}
          {view.shop.promised && `, promised for ${view.shop.promised}`}
          {view.shop.overdue && <strong className="v-act">, overdue</strong>}
          {!sends && view.shop.asked.length > 0 && `. Still asked: ${view.shop.asked.join(", ")}`}
        </p>
      )}
      {sends && (
        <div className={css.leadrow}>
          {(["what", "shop"] as const).map((n) => (
            <div key={n} className="field">
              <label htmlFor={`shop-${n}`}>{n === "what" ? "What goes" : "Shop"}</label>
              <input
                id={`shop-${n}`}
                maxLength={80}
                value={value(n)}
                onChange={(e) => job.put(`shop:${n}`, e.target.value)}
              />
            </div>
          ))}
          <div className="field">
            <label htmlFor="shop-promised">Promised for</label>
            <input
              id="shop-promised"
              type="date"
              value={value("promised")}
              onChange={(e) => job.put("shop:promised", e.target.value)}
            />
          </div>
          <NamedFigure name="price" />
        </div>
      )}
      <div className={css.signs}>
        <span className="mute">{sends ? "On the note" : "Reported back"}</span>
        {list.map((w) => (
          <label key={w} className="confirm">
            <input type="checkbox" checked={ticked.includes(w)} onChange={(e) => tick(w, e.target.checked)} />{" "}
            {w}
          </label>
        ))}
      </div>
      {job.tools.writes &&
        (sends ? (
          <Act waits={!value("shop").trim() && "Enter the shop."} onClick={() => keep()}>
            Save hand-over
          </Act>
        ) : (
          <div className={css.choices}>
            <button type="button" className="btn-line" onClick={() => keep("yes")}>
              Accepted
            </button>
            <button type="button" className="btn-line" onClick={() => keep("no")}>
              Sent back
            </button>
          </div>
        ))}
    </section>
  );
}
