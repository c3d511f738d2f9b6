/** Every bench that a room defines, by its name; and all of it fetched while nobody waits. */
import { fetchLater } from "./base";
import { PLOT } from "./logbook";
import type { BenchDef } from "./safety";

const found = import.meta.glob<{ default: BenchDef }>("./*/*/def.ts", { eager: true });
export const BENCHES: BenchDef[] = Object.values(found).map((m) => m.default);

export const benchDef = (name: string) => BENCHES.find((b) => b.bench === name);

export async function fetchAll() {
  await fetchLater(PLOT);
  for (const b of BENCHES) {
    await fetchLater(b.drawing);
    if (b.recorded) await fetchLater(b.recorded);
  }
}
