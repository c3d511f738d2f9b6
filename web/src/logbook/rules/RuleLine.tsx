/** A rule drawn: its limits along a line, what each part of it says by shape and colour, a site's own limit beside. */
import type { Schemas } from "../../base";
import css from "./rules.module.scss";

type Rule = Schemas["RuleRow"];
const [WIDE, LINE] = [440, 34];
const x = (at: number) => 6 + at * (WIDE - 12);

export function RuleLine({ rule }: { rule: Rule }) {
  const ends = [0, ...rule.ticks.map((t) => t.at), 1];
  const said = rule.zones
    .map((zone, i) => {
      const limit = rule.ticks[i]?.shown;
      return limit ? `${zone} to ${limit}` : `${zone} beyond`;
    })
    .join(", ");
  const own = rule.ticks.filter((t) => t.site).map((t) => `site limit ${t.site} instead of ${t.shown}`);
  return (
    <svg
      className={css.ruleline}
      viewBox={`0 0 ${WIDE} 66`}
      role="img"
      aria-label={[said, ...own].join("; ")}
    >
      {rule.zones.map((zone, i) => {
        const [a, b] = [x(ends[i] ?? 0), x(ends[i + 1] ?? 1)];
        return (
          <g key={i} className={`v-${zone}`}>
            <path className={css.zone} d={`M${a} ${LINE}H${b}`} data-zone={zone} />
            <text x={(a + b) / 2} y={LINE - 8} textAnchor="middle">
              {zone}
            </text>
          </g>
        );
      })}
      {rule.ticks.map((t) => (
        <g key={t.limit} className={t.site ? css.notused : ""}>
          <path className={css.ticked} d={`M${x(t.at)} ${LINE - 7}V${LINE + 7}`} />
          <text className={css.tickword} x={x(t.at)} y={LINE + 20} textAnchor="middle">
            {t.shown}
          </text>
        </g>
      ))}
      {rule.ticks
        .filter((t) => t.site_at !== null)
        .map((t) => (
          <g key={t.limit} className={css.sites} data-site={t.limit}>
            <path d={`M${x(t.site_at ?? 0)} ${LINE - 10}V${LINE + 10}`} />
            <text x={x(t.site_at ?? 0)} y={LINE + 31} textAnchor="middle">
              ✎ {t.site}
            </text>
          </g>
        ))}
    </svg>
  );
}
