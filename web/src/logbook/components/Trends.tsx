/** Every series of a set: the newest points at once, all of them when they are asked for. */
import { useState } from "react";
import { Ready, small } from "../../base";
import { useAllTrends, useTrends } from "../queries";
import { TrendPlot } from "./TrendPlot";

export function Trends({ setId, zone }: { setId: number; zone: string }) {
  const [whole, setWhole] = useState(false);
  const newest = useTrends(setId);
  const all = useAllTrends(whole ? setId : null);
  const longer = newest.data?.some((t) => t.partial) ?? false;
  return (
    <>
      <div className={`rowflex ${small.betweenOver}`}>
        <h2 id="trends-title">Trends</h2>
        {longer && (
          <button className="linklike noprint" onClick={() => setWhole(!whole)}>
            {whole ? "show the newest points" : "show all points"}
          </button>
        )}
      </div>
      <Ready query={whole ? all : newest} what={whole ? "Loading all points" : "Loading trends"}>
        {(list) =>
          list.length ? (
            <>
              {list.map((t) => (
                <TrendPlot key={t.measurand + t.conditions + t.leg} trend={t} zone={zone} />
              ))}
            </>
          ) : (
            <p className="mute">No trend yet. It starts with the first saved record.</p>
          )
        }
      </Ready>
    </>
  );
}
