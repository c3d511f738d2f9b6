/** What every bench's page does alike: which record it is about, putting a sheet on record, leaving one. */
import { useQueryClient } from "@tanstack/react-query";
import { createContext, useContext, useState } from "react";
import { useNavigate, useParams, useSearchParams } from "react-router";
import {
  address,
  outbox,
  renew,
  type Address,
  type Asked,
  type BenchName,
  type Body,
  type RecordsPath,
} from "../base";
import { useRecord } from "./queries";

export type Mode = "new" | "correct" | "pencil";
/** What a save says to the set's page: the record, and whether the server judged otherwise than was seen. */
export interface Said {
  saved: number;
  differs: boolean;
}

/** A bench that is opened in place, inside other work: what follows once its sheet is on record, or was left. */
const Within = createContext<((said: Said | undefined) => void) | null>(null);
export const OpenedWithin = Within.Provider;
export const useWithin = () => useContext(Within);

/** A bench's page from its address: the set, and the record that is corrected or tried in pencil. */
export function useBenchPage() {
  const id = Number(useParams().setId);
  const [search] = useSearchParams();
  const recordId = search.get("record") ? Number(search.get("record")) : null;
  const mode: Mode = recordId === null ? "new" : ((search.get("mode") ?? "correct") as Mode);
  return { id, recordId, mode, record: useRecord(recordId) };
}

type Put = Body<RecordsPath, "POST">;
/** What is put on record: entries as the bench's own address types them. */
type Request<N extends BenchName> = Omit<Put, "entries" | "reason"> & Asked<N> & { reason?: string };

export function useSaving(setId: number) {
  const go = useNavigate();
  const client = useQueryClient();
  const within = useWithin();
  const [sending, setSending] = useState(false);
  const [refusal, setRefusal] = useState<unknown>(null);
  const over = async (write: () => Promise<Said | undefined>, after: () => void): Promise<unknown> => {
    if (sending) return null;
    setSending(true);
    setRefusal(null);
    try {
      const state = await write();
      after();
      await renew(client, { set: setId });
      if (within) {
        within(state);
        return null;
      }
      // Nothing to be said: it was left. The page knows by it that this sheet is no longer under way.
      void go(`/sets/${setId}`, { state: state ?? { left: true } });
      return null;
    } catch (e) {
      setRefusal(e);
      setSending(false);
      return e;
    }
  };
  return {
    sending,
    refusal,
    /** Gives what the server refused it with, or null; `after` drops the draft once it is on record. */
    put: <N extends BenchName>(bench: N, request: Request<N>, label: string, id: string, after: () => void) =>
      over(async () => {
        const saved = await outbox.write(
          "POST",
          `/api/v1/benches/${bench}/records` as Address<RecordsPath>,
          request as Put,
          label,
          id,
        );
        return { saved: saved.record, differs: saved.differs };
      }, after),
    leave: (sheet: string, reason: string, label: string, after: () => void) =>
      over(async () => {
        await outbox.write(
          "POST",
          address("/api/v1/sheets/{uuid}/leave", { uuid: sheet }),
          { reason },
          label,
        );
        return undefined;
      }, after),
  };
}
