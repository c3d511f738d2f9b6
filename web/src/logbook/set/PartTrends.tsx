/** The trends of one part: one large, the others small in a row to choose from. */
import { useState } from "react";
import { day, Ready, useMe, type Schemas } from "../../base";
import { TrendPlot } from "../components/TrendPlot";
import { useAllTrends, useTrends } from "../queries";
import { Spark } from "./Spark";
import css from "./set.module.scss";

type Trend = Schemas["TrendOut"];
const same = (a: Trend, b: Trend) => a.measurand === b.measurand && a.leg === b.leg;

export function PartTrends({ setId, part, zone }: { setId: number; part: string; zone: string }) {
  const newest = useTrends(setId);
  return (
    <Ready query={newest} what="Loading trends">
      {(all) => {
        const list = all.filter((t) => t.part === part);
        return (
          <section className={css.trends} aria-labelledby="trends-title">
            <h2 id="trends-title">Trends</h2>
            {list.length ? (
              <Chosen key={part} setId={setId} list={list} zone={zone} />
            ) : (
              <p className="mute">No trend yet. It starts with the first saved record.</p>
            )}
          </section>
        );
      }}
    </Ready>
  );
}

function Chosen({ setId, list, zone }: { setId: number; list: Trend[]; zone: string }) {
  const [series, setSeries] = useState(list[0]?.series ?? 0);
  const [whole, setWhole] = useState(false);
  const all = useAllTrends(whole ? setId : null);
  const newest = list.find((t) => t.series === series) ?? list[0];
  if (!newest) return null;
  const large = (whole && all.data?.find((t) => t.series === newest.series)) || newest;
  // Of each kind the one with most points stands for it; read in another state, it is chosen under the large one.
  const kinds = list.filter((t, i) => list.findIndex((o) => same(o, t)) === i);
  const states = list.filter((t) => same(t, newest));
  return (
    <div className={css.trendgrid}>
      <div>
        {large.points.length < 2 ? (
          <One trend={large} zone={zone} />
        ) : (
          <TrendPlot trend={large} zone={zone} height={168} />
        )}
        <div className={css.states}>
          {states.length > 1 &&
            states.map((t) => (
              <button
                key={t.series}
                className="linklike"
                aria-pressed={t.series === newest.series}
                onClick={() => setSeries(t.series)}
              >
                {t.differs || t.conditions} ({t.total})
              </button>
            ))}
          {newest.partial && (
            <button className="linklike noprint" onClick={() => setWhole(!whole)}>
              {whole ? "Show the newest points" : "Show all points"}
            </button>
          )}
        </div>
      </div>
      {kinds.length > 1 && (
        <div className={css.smalls}>
          {kinds
            .filter((t) => !same(t, newest))
            .map((t) => (
              <button
                key={t.series}
                className={css.smalltrend}
                data-small={t.measurand}
                onClick={() => setSeries(t.series)}
              >
                <span className={css.smallhead}>
                  <span>
                    {t.title}
                    {t.leg && `, ${t.leg}`}
                  </span>
                  <span className="mono">{t.points.at(-1)?.shown}</span>
                </span>
                <Spark trend={t} />
              </button>
            ))}
        </div>
      )}
    </div>
  );
}

/** One reading is no trend: it is said, not drawn. */
function One({ trend: t, zone }: { trend: Trend; zone: string }) {
  const me = useMe();
  const last = t.points.at(-1);
  return (
    <figure className={css.one} data-measurand={t.measurand}>
      <strong>{t.title}</strong>{" "}
      <span className="mute">{[t.leg, t.conditions].filter(Boolean).join("; ")}</span>
      <p>
        One reading, {last && day(new Date(last.t * 1000).toISOString(), zone, me.locale)}:{" "}
        <span className="mono">{last?.shown}</span>
      </p>
    </figure>
  );
}
