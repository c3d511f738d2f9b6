/** How a van's box of shims is drawn. What is low is the server's word. */
import type { Schemas } from "../base";

export type Van = Schemas["VanOut"];
export type Lot = Schemas["LotOut"];
/** How many sheets are drawn of a lot, and how thick each: enough to see, never more than fits. */
export function pile(lot: { tenths: number; count: number }): { sheets: number; thick: number } {
  const thick = Math.max(2, Math.min(14, 2 + lot.tenths / 1500));
  return { sheets: Math.max(0, Math.min(lot.count, Math.floor(72 / (thick + 1)))), thick };
}
