/** Every bench that a room defines, by its name. */
import { type BenchDef } from "./safety";

const found = import.meta.glob<{ default: BenchDef }>("./*/*/def.ts", { eager: true });
export const BENCHES: BenchDef[] = Object.values(found).map((m) => m.default);

export const benchDef = (name: string) => BENCHES.find((b) => b.bench === name);
