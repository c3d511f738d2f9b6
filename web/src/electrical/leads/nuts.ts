/** A terminal box while it is put together: its nuts read from the text and written back, and where everything stands. */
export const LINES = ["L1", "L2", "L3"] as const;
export const IEC = ["U1", "V1", "W1", "U2", "V2", "W2", "U5", "V5", "W5", "U6", "V6", "W6"];

/** One nut: its line, its leads by number, and what else was typed there, which nobody may lose. */
export interface Nut {
  line: string;
  leads: number[];
  rest: string[];
}
export const nameOf = (lead: number, marks: string): string =>
  marks === "iec" ? (IEC[lead - 1] ?? `T${lead}`) : `T${lead}`;

function leadOf(word: string, leads: number): number {
  const upper = word.toUpperCase();
  const iec = IEC.indexOf(upper) + 1;
  const number = iec || (/^T?\d{1,2}$/.test(upper) ? Number(upper.replace("T", "")) : 0);
  return number <= leads ? number : 0;
}

/** The nuts of a text, the three lines' own first. What is named again or not known stays where it was typed. */
export function nutsOf(text: string, leads: number): Nut[] {
  const seen = new Set<string>();
  const once = (word: string) => !seen.has(word) && Boolean(seen.add(word));
  const nuts: Nut[] = [];
  for (const part of text.split(/[\n/;]+/)) {
    const nut: Nut = { line: "", leads: [], rest: [] };
    for (const word of part
      .trim()
      .split(/[\s,+]+/)
      .filter(Boolean)) {
      const line = LINES.find((l) => l === word.toUpperCase());
      const lead = leadOf(word, leads);
      if (line && !nut.line && once(line)) nut.line = line;
      else if (lead && once(String(lead))) nut.leads.push(lead);
      else nut.rest.push(word);
    }
    if (nut.line || nut.leads.length || nut.rest.length) nuts.push(nut);
  }
  const lined = LINES.map((line) => nuts.find((n) => n.line === line) ?? { line, leads: [], rest: [] });
  return [...lined, ...nuts.filter((n) => !n.line)];
}

/** The same as a text; a line that nothing was put on yet is written all the same once anything is. */
export function textOf(nuts: readonly Nut[], marks: string): string {
  const words = nuts.map((n) =>
    [n.line, ...n.leads.toSorted((a, b) => a - b).map((l) => nameOf(l, marks)), ...n.rest].filter(Boolean),
  );
  return words
    .filter((w, i) => w.length > 0 && (nuts[i]!.line || w.length))
    .map((w) => w.join(" "))
    .join(" / ");
}

/** A lead in this nut, and in no other; where it was in it already, in none. Beyond the last: a nut of its own. */
export function put(nuts: readonly Nut[], lead: number, at: number): Nut[] {
  const had = nuts[at]?.leads.includes(lead) ?? false;
  const next = nuts.map((n) => ({ ...n, leads: n.leads.filter((l) => l !== lead) }));
  if (!had) {
    if (at >= next.length) next.push({ line: "", leads: [lead], rest: [] });
    else next[at]!.leads.push(lead);
  }
  return next.filter((n) => n.line || n.leads.length || n.rest.length);
}

export interface Place {
  x: number;
  y: number;
}
export interface Stand {
  width: number;
  height: number;
  lines: Place[];
  nuts: Place[];
  leads: Place[];
}
/** Where lines, nuts and leads are, the lines coming in from above, or turned by so many quarters. */
export function standOf(
  nuts: number,
  leads: number,
  size: { wide: number; high: number },
  turn: number,
): Stand {
  const { wide, high } = size;
  const spread = (n: number, i: number, from = 0, to = wide) => from + ((i + 0.5) * (to - from)) / n;
  const free = Math.max(1, nuts - 3);
  const flat = {
    lines: LINES.map((_, i) => ({ x: spread(3, i), y: 10 })),
    nuts: Array.from({ length: nuts }, (_, i) =>
      i < 3 ? { x: spread(3, i), y: high * 0.24 } : { x: spread(free, i - 3), y: high * 0.52 },
    ),
    leads: Array.from({ length: leads }, (_, i) => ({ x: spread(leads, i), y: high - 30 })),
  };
  const turned = (p: Place): Place =>
    [p, { x: high - p.y, y: p.x }, { x: wide - p.x, y: high - p.y }, { x: p.y, y: wide - p.x }][turn % 4]!;
  const sideways = turn % 2 === 1;
  return {
    width: sideways ? high : wide,
    height: sideways ? wide : high,
    lines: flat.lines.map(turned),
    nuts: flat.nuts.map(turned),
    leads: flat.leads.map(turned),
  };
}
/** The nut that is nearest to a place, within a finger. */
export function nutAt(stand: Stand, p: Place, reach = 44): number {
  const away = stand.nuts.map((n) => Math.hypot(n.x - p.x, n.y - p.y));
  const best = away.indexOf(Math.min(...away));
  return best >= 0 && away[best]! <= reach ? best : -1;
}
