/** Every bench that a room defines, by its name; and all of it fetched while nobody waits. */
import { fetchLater, type Later } from "./base";
import { PLOT, READINGS_PAGE, RULES_PAGE, SET_PAGE } from "./logbook";
import { PARTS_PAGE, REGISTER_PAGE } from "./plant";
import { HAND_OVER_PAGE, type BenchDef } from "./safety";
import { VANS_PAGE } from "./stores";

const found = import.meta.glob<{ default: BenchDef }>("./*/*/def.ts", { eager: true });
export const BENCHES: BenchDef[] = Object.values(found).map((m) => m.default);

export const benchDef = (name: string) => BENCHES.find((b) => b.bench === name);

export async function fetchAll() {
  for (const page of [
    SET_PAGE,
    PLOT,
    PARTS_PAGE,
    REGISTER_PAGE,
    READINGS_PAGE,
    RULES_PAGE,
    VANS_PAGE,
    HAND_OVER_PAGE,
  ])
    await fetchLater(page as Later);
  for (const b of BENCHES) {
    await fetchLater(b.drawing);
    if (b.recorded) await fetchLater(b.recorded);
  }
}
