/** Tools with nothing behind them: for trying a drawing by itself. */
import type { Given, Tools } from "./tools";

const NOTHING = async () => undefined;
const SET = { id: 7, tag: "C-1", site_id: 1, may: "technician", components: [], slots: [] };

export function standIn(more: Partial<Tools> & { rules?: Given["rules"] } = {}): Tools {
  const { rules = {}, ...own } = more;
  const given = {
    set: SET,
    bench: { title: "Try", one: "a try", read_with: [] },
    rules,
    mode: "new",
    record: null,
  };
  const line = { value: "", set: () => undefined };
  const tools = {
    given: given as unknown as Given,
    order: [],
    entered: () => null,
    put: () => undefined,
    told: { answer: null, before: false, error: null, ask: () => undefined },
    named: { hand: {}, take: () => undefined },
    any: false,
    save: NOTHING,
    sending: false,
    refusal: null,
    reason: line,
    note: line,
    sheet: "",
    photo: "",
    may: true,
    writes: true,
    narrow: false,
    symbols: {},
    answer: null,
    unitOf: (name: string) => rules[name]?.unit ?? "",
    held: null,
    hold: () => undefined,
    focus: () => undefined,
    next: () => undefined,
    ...own,
  };
  const type = (name: string, text: string, unit = tools.unitOf(name)) =>
    tools.put(name, text ? { text, unit } : null);
  return { type, ...tools };
}
