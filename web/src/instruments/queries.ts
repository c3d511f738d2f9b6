/** The register of instruments, what is in hand, and what a sheet is read with. */
import { useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import {
  address,
  handOf,
  holdInHand,
  outbox,
  renew,
  useDraft,
  useGet,
  useHand,
  useKept,
  useMe,
  type Hand,
  type Schemas,
} from "../base";

export type Register = Schemas["InstrumentsOut"];
export type Instrument = Schemas["InstrumentOut"];
export type Span = Instrument["spans"][number];

export function useRegisterOf(site: number | null) {
  const told = useGet("/api/v1/sites/{site_id}/instruments", site === null ? null : { site_id: site });
  return useKept(`instruments:${site ?? 0}`, told);
}
const asHand = (inHand: Record<string, number>): Hand =>
  Object.fromEntries(Object.entries(inHand).map(([reads, id]) => [reads, String(id)]));

/** What this person reads with on a site, and to take another: on this device at once, on the others when it was sent. */
export function useInHand(site: number) {
  const me = useMe();
  const client = useQueryClient();
  const whose = handOf(me.username, site);
  const register = useRegisterOf(site);
  const hand = useHand(whose);
  // What was chosen here and is not sent yet stands over what the server remembers.
  const chosen = useDraft(`${me.username}:hand:${site}`, NONE);
  const told = register.data?.in_hand;
  const over = chosen.value;
  const { change } = chosen;
  useEffect(() => {
    if (!told) return;
    const there = asHand(told);
    const next: Hand = { ...there };
    // What was sent meanwhile, from another page perhaps, stands on the server: another device may change it again.
    const waits = (entries: [string, string | null][]) =>
      entries.filter(([k, id]) => (there[k] ?? null) !== id);
    const open = waits(Object.entries(over));
    if (open.length < Object.keys(over).length) change((d) => Object.fromEntries(waits(Object.entries(d))));
    for (const [reads, id] of Object.entries(over)) {
      if (id === null) delete next[reads];
      else next[reads] = id;
    }
    holdInHand(whose, next);
  }, [told, over, whose, change]);
  const take = (reads: string, id: string | null) => {
    chosen.change((d) => ({ ...d, [reads]: id }));
    const next = { ...hand };
    if (id === null) delete next[reads];
    else next[reads] = id;
    holdInHand(whose, next);
    const body = { reads: { [reads]: id === null ? null : Number(id) } };
    const path = address("/api/v1/sites/{site_id}/in-hand", { site_id: site });
    void outbox
      .write("PUT", path, body, "instruments in hand")
      .then(() => renew(client, { site }))
      .catch(() => undefined)
      .finally(() =>
        chosen.change((d) =>
          Object.fromEntries(Object.entries(d).filter(([k, v]) => k !== reads || v !== id)),
        ),
      );
  };
  return { register, hand, take };
}
const NONE: Record<string, string | null> = {};

/** What a sheet is read with. */
export interface Named {
  hand: Hand;
  take: (reads: string, id: string | null) => void;
}
/** What a record was read with: where it was several for one thing, none is said again. */
export function handOfRecord(readWith: Schemas["ReadWithOut"][]): Hand {
  const once = readWith.filter((r) => readWith.filter((x) => x.reads === r.reads).length === 1);
  return Object.fromEntries(once.map((r) => [r.reads, r.id]));
}
/** What is in hand; for a record that is corrected, what it was read with, until somebody says otherwise. */
export function useNamed(site: number, record: Schemas["RecordOut"] | null): Named {
  const me = useMe();
  const mine = useInHand(site);
  const start = record ? handOfRecord(record.read_with) : {};
  const again = useDraft<Hand>(`${me.username}:named:${record?.id ?? 0}`, start);
  if (!record) return { hand: mine.hand, take: mine.take };
  return {
    hand: again.value,
    take: (reads, id) =>
      again.change((d) => {
        const rest = Object.fromEntries(Object.entries(d).filter(([k]) => k !== reads));
        return id === null ? rest : { ...rest, [reads]: id };
      }),
  };
}
