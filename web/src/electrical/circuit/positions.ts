/** How a starter can stand, as it is chosen: the words of its positions. */
const WORDS: Record<string, string> = {
  out: "out",
  in: "in",
  reverse: "in, reverse",
  star: "main and star in",
  delta: "main and delta in",
  drive: "of the drive in, bypass out",
  bypass: "bypass in",
  first: "first group in",
  second: "second group in",
  both: "both groups in",
};
export const POSITIONS = Object.keys(WORDS);
/** What a position is called beside the others that this starter has. */
export function wordOf(position: string, among: readonly string[]): string {
  if (position === "in" && among.includes("reverse")) return "in, forward";
  if (position === "in" && among.includes("star")) return "main alone in";
  if (position === "in" && among.includes("bypass")) return "line in, bypass out";
  if (position === "bypass" && among.includes("in")) return "line and bypass in";
  if (position === "bypass" && among.includes("drive")) return "bypass in, drive out";
  return WORDS[position] ?? position;
}
