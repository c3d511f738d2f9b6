/** What the rules are about, room by room: how many there are, and where the site has a figure of its own. */
import { Link } from "react-router";
import { ACROSS, OWN, type Row, type Rules } from "./rows";
import css from "./rules.module.scss";

interface Of {
  rules: Rules;
  counts: Map<string, number>;
  found: Row[];
  topic: string;
  searched: boolean;
}

export function RuleIndex({ rules, counts, found, topic, searched }: Of) {
  const own = new Set(found.flatMap((r) => (r.under.includes(OWN) ? [r.topic] : [])));
  const at = topic || (searched ? "" : OWN);
  const rooms = [...new Set(rules.topics.map((t) => t.room))];
  const entry = (key: string, title: string) => (
    <Link key={key} to={`?topic=${encodeURIComponent(key)}`} aria-current={key === at ? "page" : undefined}>
      {title} {own.has(key) && <span title="This site has a figure of its own here">✎</span>}
      <span className={css.howmany}>{counts.get(key)}</span>
    </Link>
  );
  return (
    <nav className={css.ruleindex} aria-label="Topics">
      <Link className={css.alltopics} to="?">
        ← All topics
      </Link>
      <div>{ACROSS.map(([key, title]) => entry(key, title))}</div>
      {rooms.map((room) => {
        const topics = rules.topics.filter((t) => t.room === room);
        return (
          <div key={room}>
            {topics.length > 1 && <h2>{room}</h2>}
            {topics.map((t) => entry(t.key, t.title))}
          </div>
        );
      })}
    </nav>
  );
}
