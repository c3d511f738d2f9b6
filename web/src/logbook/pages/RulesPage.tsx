/** Every rule and limit with its source, by what it is about; a site's own figures first. */
import { useDeferredValue, useEffect, useRef, useState } from "react";
import { useSearchParams } from "react-router";
import { Ready, small } from "../../base";
import { chosenSite, useSites, type Site } from "../../plant";
import { sourced } from "../components/FindingBox";
import { RuleLine } from "../rules/RuleLine";
import { useRules } from "../queries";
import { LimitLine } from "../rules/LimitLine";
import { RuleIndex } from "../rules/RuleIndex";
import { RuleTable } from "../rules/RuleTable";
import { SchoolLine } from "../rules/SchoolLine";
import { OWN, counted, holding, rowsOf, titleOf, type Row, type Rules } from "../rules/rows";
import css from "../rules/rules.module.scss";

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
      {(r) => <Book site={site} rules={r} />}
    </Ready>
  );
}

function Book({ site, rules }: { site: Site; rules: Rules }) {
  const [search] = useSearchParams();
  const [text, setText] = useState("");
  const words = useDeferredValue(text).toLowerCase().split(/\s+/).filter(Boolean);
  const pane = useRef<HTMLDivElement>(null);
  const found = rowsOf(rules).filter((r) => holding(words, r));
  const counts = counted(rules, found);
  const asked = search.get("topic") ?? "";
  const topic = counts.has(asked) ? asked : "";
  const shown = found.filter((r) => (topic || words.length === 0 ? r.under.includes(topic || OWN) : true));
  useEffect(() => {
    // Somebody who was far down in one topic begins the next one at its head.
    if (topic && (pane.current?.getBoundingClientRect().top ?? 0) < 0) pane.current?.scrollIntoView();
  }, [topic]);
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
        <p className="mute" role="status">
          {(topic || words.length > 0) && `${shown.length} found`}
        </p>
      </div>
      <div className={css.rulebook} data-open={topic ? "topic" : words.length > 0 ? "words" : ""}>
        <RuleIndex rules={rules} counts={counts} found={found} topic={topic} searched={words.length > 0} />
        <div ref={pane} className={css.rulepane}>
          {shown.length === 0 && <Nothing topic={topic} words={words.length > 0} />}
          {rules.topics
            .filter((t) => shown.some((r) => r.topic === t.key))
            .map((t) => (
              <section key={t.key} className={css.topic} aria-label={titleOf(t)}>
                <h2>{titleOf(t)}</h2>
                {shown
                  .filter((r) => r.topic === t.key)
                  .map((r) => (
                    <Shown key={r.kind + r.row.id} site={site} rules={rules} of={r} />
                  ))}
              </section>
            ))}
        </div>
      </div>
    </>
  );
}

function Nothing({ topic, words }: { topic: string; words: boolean }) {
  if (words) return <p>Nothing goes by these words{topic && " here"}. Clear the search or look elsewhere.</p>;
  return (
    <p>
      This site has no figure or practice of its own: it works by the published ones. Choose a topic, or
      search by words.
    </p>
  );
}

function Shown({ site, rules, of }: { site: Site; rules: Rules; of: Row }) {
  const may = rules.role === "lead" || rules.role === "admin";
  if (of.kind === "limit") return <LimitLine site={site} row={of.row} may={may} />;
  if (of.kind === "table") return <RuleTable table={of.row} />;
  if (of.kind === "school") return <SchoolLine site={site} row={of.row} may={may} />;
  const rule = of.row;
  return (
    <section className={css.ruleof} id={rule.id} data-rule={rule.id}>
      <div>
        <h3>{rule.title}</h3>
        <p className={small.tight}>{rule.formula}</p>
        <p className={`mute ${small.tightOver}`}>
          {rule.why} {sourced(rule)}.
        </p>
      </div>
      <div>
        {rule.ticks.length > 0 && <RuleLine rule={rule} />}
        {of.limits.map((l) => (
          <LimitLine key={l.id} site={site} row={l} may={may} />
        ))}
      </div>
    </section>
  );
}
