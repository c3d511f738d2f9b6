/** On Plant, over what needs a person first: what was called in, what is live, what waits to be looked at again. */
import { Link } from "react-router";
import { chosenSite, useSites } from "../plant";
import { MatterBox, Tags } from "./components";
import { useSiteSafety } from "./queries";
import css from "./safety.module.scss";

export function PlantCalls() {
  const site = chosenSite(useSites().data);
  const safety = useSiteSafety(site?.id ?? null).data;
  const first = safety?.first ?? [];
  return (
    <div className={css.plantcalls}>
      <p className="rowflex">
        <Link className="btn-ink" to="/call">
          New call
        </Link>
        <Link className="btn-line" to="/hand-over">
          Shift handover
        </Link>
      </p>
      {safety?.matters.map((m) => (
        <MatterBox key={m.id} matter={m} may={site?.role !== "viewer"} />
      ))}
      {first.length > 0 && (
        <Tags tags={first.map((t) => ({ ...t, title: `${t.tag} ${t.title.toLowerCase()}` }))} />
      )}
    </div>
  );
}
