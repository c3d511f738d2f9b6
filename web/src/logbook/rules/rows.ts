/** The rulebook as rows to be found: each with the words it is found by and what it is listed under. */
import type { Schemas } from "../../base";

export type Rules = Schemas["RulesOut"];
type Limit = Schemas["LimitRow"];
type Listed = { topic: string; words: string; under: string[] };
export type Row = Listed &
  (
    | { kind: "rule"; row: Schemas["RuleRow"]; limits: Limit[] }
    | { kind: "limit"; row: Limit }
    | { kind: "table"; row: Schemas["TableRow"] }
    | { kind: "school"; row: Schemas["SchoolRow"] }
  );

/** What is listed across all topics, by what stands in an address. */
export const [OWN, SCHOOLS, TABLES] = ["site", "practice", "tables"];
export const ACROSS: [string, string][] = [
  [OWN, "✎ Where this site differs"],
  [SCHOOLS, "Where practice differs"],
  [TABLES, "Tables"],
];

const owned = (rows: Schemas["OverrideRow"][]) => (rows.length > 0 ? [OWN] : []);
const said = (...texts: string[]) => texts.join(" ").toLowerCase();

/** Rules with their limits, then what limits, tables and schools stand by themselves. */
export function rowsOf(rules: Rules): Row[] {
  const byId = new Map(rules.limits.map((l) => [l.id, l]));
  const inRules = new Set(rules.rules.flatMap((r) => r.limits));
  return [
    ...rules.rules.map((row): Row => {
      const limits = row.limits.flatMap((id) => byId.get(id) ?? []);
      const words = said(row.title, row.formula, row.why, row.source, ...limits.map((l) => l.title));
      const under = [row.topic, ...owned(limits.flatMap((l) => l.overrides))];
      return { kind: "rule", row, limits, topic: row.topic, words, under };
    }),
    ...rules.limits
      .filter((l) => !inRules.has(l.id))
      .map((row): Row => {
        const under = [row.topic, ...owned(row.overrides)];
        return { kind: "limit", row, topic: row.topic, words: said(row.title, row.source, row.why), under };
      }),
    ...rules.tables.map((row): Row => {
      const words = said(row.title, row.source, row.why);
      return { kind: "table", row, topic: row.topic, words, under: [row.topic, TABLES] };
    }),
    ...rules.schools.map((row): Row => {
      const words = said(row.title, row.why, ...Object.values(row.options));
      const under = [row.topic, SCHOOLS, ...owned(row.overrides)];
      return { kind: "school", row, topic: row.topic, words, under };
    }),
  ];
}

/** Every one of these words stands in it, wherever. */
export const holding = (words: string[], row: Row) => words.every((w) => row.words.includes(w));

/** How many of these rows are listed under each topic, and across them. */
export function counted(rules: Rules, rows: Row[]) {
  const counts = new Map(
    [...ACROSS.map(([key]) => key), ...rules.topics.map((t) => t.key)].map((k) => [k, 0]),
  );
  for (const key of rows.flatMap((r) => r.under)) counts.set(key, (counts.get(key) ?? 0) + 1);
  return counts;
}

export const titleOf = (topic: Schemas["TopicRow"]) =>
  topic.key.includes("/") ? `${topic.room}: ${topic.title}` : topic.title;
