import { useEffect, useMemo, useRef, useState } from "react";
import { useQueryClient } from "@tanstack/react-query";
import {
  address,
  AGING_MS,
  brings,
  deviceName,
  outbox,
  useGet,
  useSession,
  type Parcel,
  type Schemas,
} from "../base";
import { chosenSite, useSites } from "../plant";

export type SetSafety = Schemas["SetSafetyOut"];
export type Tag = Schemas["Tag"];
export type Matter = Schemas["MatterOut"];
export type Source = Schemas["SourceOut"];
export type Offer = Schemas["Answer"];
type Union<T> = T extends unknown ? (k: T) => void : never;
type All<T> = Union<T> extends (k: infer I) => void ? I : never;
type SafeEntry = Schemas["MakeSafeEntryIn"]["body"];
type Bodies<T> = T extends { kind?: unknown } ? Omit<T, "kind"> : never;
export type SafeBody = Partial<All<Bodies<SafeEntry>>> & { kind: NonNullable<SafeEntry["kind"]> };
/** The bench of this room: what is isolated, and given back. */
export const OURS = "make_safe";
export const useSiteSafety = (site: number | null) =>
  useGet("/api/v1/sites/{site_id}/safety", site === null ? null : { site_id: site }, {
    refetchInterval: AGING_MS,
  });
const LONGEST_MS = 12 * 3_600_000;
/** Read again at the moment from which it may offer something else by itself. */
export function useSetSafety(set: number) {
  const { now } = useSession();
  // A timer of more than some weeks goes off at once.
  const left = (until: string) => Math.min(LONGEST_MS, Math.max(1000, Date.parse(until) - now().getTime()));
  return useGet(
    "/api/v1/sets/{set_id}/safety",
    { set_id: set },
    { refetchInterval: (got) => (got?.until ? left(got.until) : false) },
  );
}
const PAGE = "/api/v1/sets/{set_id}/page";
const PARTS = {
  set: "/api/v1/sets/{set_id}",
  state: "/api/v1/sets/{set_id}/state",
  trends: "/api/v1/sets/{set_id}/trends/newest",
  safety: "/api/v1/sets/{set_id}/safety",
  timeline: "/api/v1/sets/{set_id}/timeline",
} as const;
const ATTACHED = "/api/v1/sets/{set_id}/attachments";
const HISTORY = "/api/v1/sets/{set_id}/history";
brings(PAGE, [...Object.values(PARTS), HISTORY, ATTACHED]);
/** Everything the page of a set shows, in one request; what asks for a part of it finds it there. */
export function useSetPage(set: number) {
  const client = useQueryClient();
  return useGet(
    PAGE,
    { set_id: set },
    {
      refetchInterval: AGING_MS,
      taken: (page) => {
        for (const name of Object.keys(PARTS) as (keyof typeof PARTS)[])
          client.setQueryData([PARTS[name], { set_id: set }], page[name]);
        client.setQueryData([HISTORY, { set_id: set, before: "" }], page.history);
        client.setQueryData([ATTACHED, { set_id: set, before: "" }], page.attachments);
      },
    },
  );
}
/** Whether a service of the site is served, and by what; nothing while it is not known. */
export function useServed(): (serviceId: number) => Schemas["ServedOut"] | undefined {
  const site = chosenSite(useSites().data);
  const { data, error } = useSiteSafety(site?.id ?? null);
  return (id) => (error ? undefined : data?.served.find((s) => s.service === id));
}
/** What happened to a set. */
export const useTimeline = (set: number) => useGet(PARTS.timeline, { set_id: set });
/**
 * What is offered on a set now. Not known (loading, no connection, an answer that failed, a step nobody
 * knows) is not offered.
 */
export function useOffer(
  set: number,
  act: string,
): { offer: Offer | undefined; known: boolean; failed: boolean } {
  const { data, error, fetchStatus } = useSetSafety(set);
  const { connected, now } = useSession();
  const over = Boolean(data?.until) && Date.parse(data?.until ?? "") <= now().getTime();
  const cut = over || Boolean(error) || fetchStatus === "paused" || !connected;
  return {
    offer: cut ? undefined : data?.offers.find((o) => o.act === act),
    known: Boolean(data) && !cut,
    failed: cut,
  };
}
export const useSafetyWords = () => useGet("/api/v1/safety/words", {}, { staleTime: Infinity });

const PATH = /\/api\/v1\/benches\/make_safe\/sheets\/([^/]+)\/entries/;
/** What this device has said about a set and nobody has answered yet. */
export function pendingOf(parcels: Parcel[], setId: number): { sheet: string; body: SafeBody; id: string }[] {
  return parcels.flatMap((p) => {
    const sheet = PATH.exec(p.path)?.[1];
    const sent = p.body as { set_id?: number; entries?: { body: SafeBody }[] };
    const body = sent.entries?.[0]?.body;
    return sheet && sent.set_id === setId && body ? [{ sheet, body, id: p.id }] : [];
  });
}

/** The making-safe sheet of a set: how it stands on the server, and what this device still waits to send. */
export function useSafeSheet(setId: number, tag: string) {
  const safety = useSetSafety(setId);
  const { now } = useSession();
  const [parcels, setParcels] = useState<Parcel[]>([]);
  const [refusal, setRefusal] = useState<unknown>(null);
  /** What this device said last: a photo goes with it. */
  const [last, setLast] = useState("");
  useEffect(() => outbox.onChange(setParcels), []);
  const pending = useMemo(() => pendingOf(parcels, setId), [parcels, setId]);
  const made = useRef("");
  const add = async (body: SafeBody): Promise<boolean> => {
    const open = safety.data?.isolation.sheet || pending[0]?.sheet;
    if (!open && !made.current) made.current = crypto.randomUUID();
    const id = crypto.randomUUID();
    setRefusal(null);
    try {
      await outbox.write(
        "POST",
        address("/api/v1/benches/make_safe/sheets/{uuid}/entries", { uuid: open || made.current }),
        {
          set_id: setId,
          entries: [
            { uuid: id, taken_at: now().toISOString(), device: deviceName(), body: body as SafeEntry },
          ],
        },
        `${tag}, isolation entry`,
        id,
      );
      setLast(id);
      await safety.refetch();
      return true;
    } catch (e) {
      setRefusal(e);
      return false;
    }
  };
  /** Everything that an offer puts on the sheet, with the answer that it asked for. */
  const sayAll = async (offer: Schemas["Offer"], answer: string): Promise<boolean> => {
    const given = offer.unit ? { text: answer, unit: offer.unit } : answer;
    const more = offer.into && answer ? { [offer.into]: given } : {};
    // All at once: without a signal none of them is answered, and every one is to wait in its place.
    const all = await Promise.all((offer.entries ?? []).map((e) => add({ ...(e as SafeBody), ...more })));
    return all.every(Boolean);
  };
  const forget = () => {
    made.current = "";
  };
  return { safety, pending, add, sayAll, refusal, forget, last };
}
