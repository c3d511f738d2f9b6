/** Every rule and limit with its source; a lead lays the site's own figure over one, with a reason. */
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import {
  FigureInput,
  address,
  Complaint,
  day,
  outbox,
  Ready,
  renew,
  small,
  useDraft,
  useMe,
  type Schemas,
} from "../../base";
import { chosenSite, useSites, type Site } from "../../plant";
import { sourced } from "../components/FindingBox";
import { RuleLine } from "../components/RuleLine";
import { useRules } from "../queries";
import css from "../logbook.module.scss";

type Rules = Schemas["RulesOut"];
type LimitRow = Schemas["LimitRow"];
type SchoolRow = Schemas["SchoolRow"];

export function RulesPage() {
  const sites = useSites();
  return (
    <Ready query={sites}>
      {(list) => {
        const site = chosenSite(list);
        return site ? <RulesOf site={site} /> : <p>No site yet. Ask an admin to add you.</p>;
      }}
    </Ready>
  );
}
function RulesOf({ site }: { site: Site }) {
  const rules = useRules(site.id);
  return (
    <Ready query={rules} what="Loading rules">
      {(r) => <Listed site={site} rules={r} />}
    </Ready>
  );
}

/** Every word of the text in these words, wherever. */
const holds = (words: string[], ...texts: string[]) => {
  const all = texts.join(" ").toLowerCase();
  return words.every((w) => all.includes(w));
};

function Listed({ site, rules }: { site: Site; rules: Rules }) {
  const may = rules.role === "lead" || rules.role === "admin";
  const [text, setText] = useState("");
  const [topic, setTopic] = useState("");
  const [differs, setDiffers] = useState(false);
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  const inRules = new Set(rules.rules.flatMap((r) => r.limits));
  const limit = (id: string) => rules.limits.find((x) => x.id === id);
  const wanted = (of: string, own: boolean, ...texts: string[]) =>
    (!topic || of === topic) && (!differs || own) && holds(words, ...texts);
  const shown = rules.rules.filter((r) => {
    const limits = r.limits.flatMap((id) => limit(id) ?? []);
    const own = limits.some((l) => l.overrides.length > 0);
    return wanted(r.topic, own, r.title, r.formula, r.why, r.source, ...limits.map((l) => l.title));
  });
  const others = rules.limits.filter(
    (l) => !inRules.has(l.id) && wanted(l.topic, l.overrides.length > 0, l.title, l.source, l.why),
  );
  const tables = topic || differs ? [] : rules.tables.filter((t) => holds(words, t.title, t.source, t.why));
  const schools = topic
    ? []
    : rules.schools.filter(
        (s) =>
          (!differs || s.overrides.length > 0) && holds(words, s.title, s.why, ...Object.values(s.options)),
      );
  const topics = [...new Set(rules.rules.map((r) => r.topic))];
  const count = shown.length + others.length + tables.length + schools.length;
  return (
    <>
      <h1>Rules</h1>
      <p className="mute">
        Rules {rules.rules_version}. Limits marked “quoted from memory” were not checked against the standard:
        compare with your own copy. Local codes and licensed practice come first.
      </p>
      <div className={css.rulefind} role="search">
        <div className="field">
          <label htmlFor="rule-find">Find a rule, limit, table or standard</label>
          <input id="rule-find" type="search" value={text} onChange={(e) => setText(e.target.value)} />
        </div>
        <div className={css.topics} role="group" aria-label="Topics">
          {topics.map((t) => (
            <button key={t} aria-pressed={t === topic} onClick={() => setTopic(t === topic ? "" : t)}>
              {t}
            </button>
          ))}
          <button aria-pressed={differs} onClick={() => setDiffers(!differs)}>
            ✎ Where this site differs
          </button>
        </div>
        <p className="mute" role="status">
          {count === 1 ? "1 found" : `${count} found`}
        </p>
      </div>
      {count === 0 && <p>Nothing goes by these words. Clear the search or choose another topic.</p>}
      {topics
        .filter((t) => shown.some((r) => r.topic === t))
        .map((t) => (
          <section key={t} className={css.topic} aria-label={t}>
            <h2>{t}</h2>
            {shown
              .filter((r) => r.topic === t)
              .map((r) => (
                <section className={css.ruleof} key={r.id} id={r.id} data-rule={r.id}>
                  <div>
                    <h3>{r.title}</h3>
                    <p className={small.tight}>{r.formula}</p>
                    <p className={`mute ${small.tightOver}`}>
                      {r.why} {sourced(r)}.
                    </p>
                  </div>
                  <div>
                    {r.ticks.length > 0 && <RuleLine rule={r} />}
                    {r.limits.map((id) => {
                      const l = limit(id);
                      return l ? <LimitLine key={id} site={site} row={l} may={may} /> : null;
                    })}
                  </div>
                </section>
              ))}
          </section>
        ))}
      {others.length > 0 && (
        <section className="ruled">
          <h2>Other limits</h2>
          {others.map((l) => (
            <LimitLine key={l.id} site={site} row={l} may={may} />
          ))}
        </section>
      )}
      {tables.length > 0 && (
        <section className="ruled">
          <h2>Tables</h2>
          {tables.map((t) => (
            <TableOf key={t.id} table={t} />
          ))}
        </section>
      )}
      {schools.length > 0 && (
        <section className="ruled">
          <h2>Where practice differs</h2>
          {schools.map((s) => (
            <SchoolLine key={s.id} site={site} row={s} may={may} />
          ))}
        </section>
      )}
    </>
  );
}

function TableOf({ table }: { table: Schemas["TableRow"] }) {
  return (
    <details data-table={table.id}>
      <summary>{table.title}</summary>
      <div className={css.sidescroll}>
        <table className={css.figures}>
          <thead>
            <tr>
              {table.columns.map((c) => (
                <th key={c}>{c}</th>
              ))}
            </tr>
          </thead>
          <tbody>
            {table.rows.map((r) => (
              <tr key={r.join()}>
                {r.map((c, i) => (
                  <td key={table.columns[i]} className="mono">
                    {c}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <p className="mute">
        {table.why} {sourced(table)}.
      </p>
    </details>
  );
}

function Standing({
  rows,
  site,
  may,
  locale,
}: {
  rows: Schemas["OverrideRow"][];
  site: Site;
  may: boolean;
  locale: string;
}) {
  const client = useQueryClient();
  const end = async (id: number) => {
    await outbox.write(
      "DELETE",
      address("/api/v1/sites/{site_id}/overrides/{override_id}", { site_id: site.id, override_id: id }),
      undefined,
      "site limit removed",
    );
    await renew(client, { site: site.id });
  };
  return (
    <>
      {rows.map((o) => (
        <p key={o.id} className={small.inset}>
          <strong>✎ {o.shown}</strong> site limit{o.set_tag && ` for ${o.set_tag}`}, set by {o.override.by},{" "}
          {day(o.override.at, site.time_zone, locale)}: “{o.override.reason}”{" "}
          {may && (
            <button className="linklike" onClick={() => void end(o.id)}>
              Remove site limit
            </button>
          )}
        </p>
      ))}
    </>
  );
}

function LimitLine({ site, row, may }: { site: Site; row: LimitRow; may: boolean }) {
  const me = useMe();
  const [open, setOpen] = useState(false);
  return (
    <div className={small.row} data-limit={row.id}>
      <div className="rowflex">
        <span className={small.from20}>{row.title}</span>
        <span className="mono">{row.shown}</span>
        <span className={`mute ${small.from16}`}>{sourced(row)}</span>
        {may && !row.fixed && (
          <button className="linklike" aria-expanded={open} onClick={() => setOpen(!open)}>
            {open ? "Cancel" : "Set site limit"}
          </button>
        )}
      </div>
      <Standing rows={row.overrides} site={site} may={may} locale={me.locale} />
      {open && (
        <OverrideForm
          site={site}
          limit={row.id}
          unit={row.unit}
          symbol={row.symbol}
          done={() => setOpen(false)}
        />
      )}
    </div>
  );
}

function OverrideForm({
  site,
  limit,
  unit,
  symbol,
  done,
}: {
  site: Site;
  limit: string;
  unit: string;
  symbol: string;
  done: () => void;
}) {
  const draft = useDraft(`override:${site.id}:${limit}`, { value: "", reason: "" });
  const [error, setError] = useState<unknown>(null);
  const client = useQueryClient();
  const save = async () => {
    try {
      const value = draft.value.value.trim().replace(",", ".");
      await outbox.write(
        "POST",
        address("/api/v1/sites/{site_id}/overrides", { site_id: site.id }),
        {
          limit,
          value: value === "" ? null : value,
          unit,
          choice: "",
          reason: draft.value.reason,
        },
        "site limit",
      );
      draft.done({ value: "", reason: "" });
      await renew(client, { site: site.id });
      done();
    } catch (e) {
      setError(e);
    }
  };
  return (
    <div className="rulebox">
      <div className="rowflex">
        <div className={`field ${small.w130}`}>
          <label htmlFor={`v${limit}`}>Site limit, {symbol}</label>
          <FigureInput
            id={`v${limit}`}
            label={`Site limit, ${symbol}`}
            value={{ text: draft.value.value, unit: symbol }}
            unit={symbol}
            digits
            onChange={(typed) => draft.change({ ...draft.value, value: typed?.text ?? "" })}
          />
        </div>
        <div className={`field ${small.growing}`}>
          <label htmlFor={`r${limit}`}>Reason</label>
          <input
            id={`r${limit}`}
            value={draft.value.reason}
            onChange={(e) => draft.change({ ...draft.value, reason: e.target.value })}
          />
        </div>
        <button className="btn-ink" onClick={() => void save()}>
          Save site limit
        </button>
      </div>
      <p className={`mute ${small.closeBelow}`}>
        The next check uses this limit. Saved records keep their verdict until they are re-evaluated (
        <span className="mono">hurbin db rejudge</span>).
      </p>
      <Complaint error={error} />
    </div>
  );
}

function SchoolLine({ site, row, may }: { site: Site; row: SchoolRow; may: boolean }) {
  const me = useMe();
  const [reason, setReason] = useState("");
  const [error, setError] = useState<unknown>(null);
  const client = useQueryClient();
  const now = row.overrides[0]?.override.choice || row.default;
  const choose = async (choice: string) => {
    try {
      await outbox.write(
        "POST",
        address("/api/v1/sites/{site_id}/overrides", { site_id: site.id }),
        { limit: row.id, choice, unit: "", reason },
        "choice of practice",
      );
      setError(null);
      await renew(client, { site: site.id });
    } catch (e) {
      setError(e);
    }
  };
  return (
    <div data-limit={row.id}>
      <p className={small.closeHead}>
        <strong>{row.title}</strong>: {row.options[now]}
        {now === row.default && " (the default)"}
      </p>
      <p className={`mute ${small.flush}`}>{row.why}</p>
      <Standing rows={row.overrides} site={site} may={may} locale={me.locale} />
      {may && (
        <div className="rowflex">
          <input
            className={`inline-input ${small.wideWords}`}

            placeholder="reason for the change"
            aria-label="Reason for the change"
            value={reason}
            onChange={(e) => setReason(e.target.value)}
          />
          {Object.entries(row.options)
            .filter(([k]) => k !== now)
            .map(([k, v]) => (
              <button key={k} className="btn-line" onClick={() => void choose(k)}>
                Use {v}
              </button>
            ))}
        </div>
      )}
      <Complaint error={error} />
    </div>
  );
}
