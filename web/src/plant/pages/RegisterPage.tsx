/** The register: sites, services, pairs and single sets, spares, people; in and out as a file. */
import { useState } from "react";
import { Link } from "react-router";
import { Ready, small, together, useSession, type Schemas } from "../../base";
import { AddService, AddSets, ServiceForm, SiteForm } from "../components/AddForms";
import { CsvBox } from "../components/CsvBox";
import { Machine } from "../account/Machine";
import { Tablets } from "../account/Tablets";
import { Tokens } from "../account/Tokens";
import { People } from "../components/People";
import { Train } from "../components/Train";
import { chooseSite, chosenSite, useKind, useKinds, useRegister, useSites, type Site } from "../queries";
import css from "../plant.module.scss";

export function RegisterPage() {
  const both = together({ sites: useSites(), kinds: useKinds() });
  return (
    <Ready query={both} what="Loading sites">
      {({ sites }) => <Book sites={sites} />}
    </Ready>
  );
}

function Book({ sites }: { sites: Site[] }) {
  const { me } = useSession();
  const [, turn] = useState(0);
  const [making, setMaking] = useState(sites.length === 0);
  const site = chosenSite(sites);
  return (
    <>
      <div className={`rowflex ${small.between}`}>
        <h1>Register{site && <span className={small.light}> of {site.name}</span>}</h1>
        <span className="rowflex">
          {sites.length > 1 && (
            <select
              className="inline-select"
              aria-label="Site"
              value={site?.id}
              onChange={(e) => {
                chooseSite(Number(e.target.value));
                turn((n) => n + 1);
              }}
            >
              {sites.map((s) => (
                <option key={s.id} value={s.id}>
                  {s.name}
                </option>
              ))}
            </select>
          )}
          {me?.may_make_sites && (
            <button className="btn-line" onClick={() => setMaking(!making)}>
              New site
            </button>
          )}
        </span>
      </div>
      {making &&
        (me?.may_make_sites ? (
          <SiteForm
            done={(id) => {
              chooseSite(id);
              setMaking(false);
            }}
          />
        ) : (
          <p>You have no site yet. Ask an admin to add you.</p>
        ))}
      {site && <SiteBook key={site.id} site={site} />}
    </>
  );
}

function SiteBook({ site }: { site: Site }) {
  const register = useRegister(site.id);
  const admin = site.role === "admin";
  const [editing, setEditing] = useState(false);
  return (
    <Ready query={register} what="Loading register">
      {(r) => (
        <>
          <p className="mute">
            {site.code}, {site.time_zone}; your role: {site.role}.{" "}
            <a href={`/api/v1/sites/${site.id}/labels.pdf`} target="_blank" rel="noreferrer">
              Print QR labels, PDF
            </a>
            {admin && (
              <>
                .{" "}
                <button className="linklike" onClick={() => setEditing(!editing)}>
                  {editing ? "Cancel" : "Edit site"}
                </button>
              </>
            )}
          </p>
          {editing && <SiteForm old={site} done={() => setEditing(false)} />}
          <section className={`ruled ${css.regtree}`} aria-label="Services and sets">
            {r.services.length === 0 && (
              <p>
                No service yet. A service is what the pumps supply: a heating loop, chilled water, process,
                wastewater. Add the first one below.
              </p>
            )}
            {r.services.map((s) => (
              <ServiceRow key={s.id} service={s} siteId={site.id} admin={admin} />
            ))}
            {admin && <AddService siteId={site.id} count={r.services.length} />}
          </section>
          {r.spares.length > 0 && (
            <section className="ruled">
              <h2>Spares</h2>
              {r.spares.map((c) => (
                <p key={c.id} className={small.closer}>
                  <strong>{c.label}</strong> <span className="mute">{c.kind.replace("_", " ")}</span>{" "}
                  {c.lines.join("; ")}
                </p>
              ))}
            </section>
          )}
          {admin && <CsvBox site={site} />}
          {admin && <People site={site} />}
          {(admin || site.role === "lead") && <Tablets site={site} />}
          {admin && <Tokens site={site} />}
          {admin && <Machine site={site} />}
        </>
      )}
    </Ready>
  );
}

function ServiceRow({
  service,
  siteId,
  admin,
}: {
  service: Schemas["ServiceOut"];
  siteId: number;
  admin: boolean;
}) {
  const [adding, setAdding] = useState<"" | "pair" | "single" | "edit">("");
  const plant = useSetsOf(siteId, service.id);
  return (
    <div className={css.svc} data-service={service.code}>
      <div className="rowflex">
        <strong>{service.name}</strong>
        <span className="mute">
          {service.note && `${service.note}; `}running check every {service.check_every_days} days
        </span>
      </div>
      <div className={css.sets}>
        {plant.map((s) => (
          <SmallSet key={s.id} row={s} />
        ))}
      </div>
      {admin && (
        <div className={`rowflex ${small.underClose}`}>
          <button className="linklike" onClick={() => setAdding(adding === "pair" ? "" : "pair")}>
            Add duty/standby pair
          </button>
          <button className="linklike" onClick={() => setAdding(adding === "single" ? "" : "single")}>
            Add single set
          </button>
          <button className="linklike" onClick={() => setAdding(adding === "edit" ? "" : "edit")}>
            Edit service
          </button>
        </div>
      )}
      {adding === "edit" && (
        <ServiceForm
          key={service.version}
          siteId={siteId}
          place={service.place_in_order}
          old={service}
          done={() => setAdding("")}
        />
      )}
      {(adding === "pair" || adding === "single") && (
        <AddSets
          serviceId={service.id}
          key={adding}
          pair={adding === "pair"}
          done={() => setAdding((now) => (now === adding ? "" : now))}
        />
      )}
    </div>
  );
}
function SmallSet({ row }: { row: Schemas["SetBrief"] }) {
  const kind = useKind()(row.kind);
  return (
    <Link className="trainlink small" to={`/sets/${row.id}/parts`} title={kind?.title}>
      {kind && (
        <Train
          kind={kind.id}
          posture={kind.posture}
          slots={kind.slots}
          control={row.control}
          parts={[]}
          scale={0.42}
          label={`${row.tag}, ${kind.title}`}
        />
      )}
      <span className="mono">{row.tag}</span>
    </Link>
  );
}
function useSetsOf(siteId: number, serviceId: number) {
  const sets = useRegister(siteId).data?.sets ?? [];
  return sets.filter((s) => s.service_id === serviceId);
}
