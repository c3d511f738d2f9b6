/** A small form: its draft on the device, one send through the outbox, its complaint. */
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import type { Address, Answer, ApiPath, Body, Verb } from "./address";
import { renew, whereOf } from "./changes";
import { ApiError } from "./client";
import { useDraft } from "./drafts";
import { outbox } from "./outbox";
import { useMe } from "./session";

export function useSmallForm<T extends object>(key: string, start: T) {
  const me = useMe();
  const client = useQueryClient();
  const [begin] = useState(start);
  /** Begun anew: what carries an id of its own gets another. */
  const anew = (): T => ("uuid" in begin ? { ...begin, uuid: crypto.randomUUID() } : begin);
  const draft = useDraft<T>(`${me.username}:${key}`, begin);
  const [error, setError] = useState<unknown>(null);
  const [busy, setBusy] = useState(false);
  const set = (next: Partial<T>) => draft.change((d) => ({ ...d, ...next }));
  /** True when it was taken; else the complaint stands and nothing typed is lost. */
  const send = async <P extends ApiPath, M extends Verb>(
    method: M,
    path: Address<P>,
    said: Body<P, M> | Promise<Body<P, M>>,
    label: string,
    id?: string,
  ): Promise<Answer<P, M> | null> => {
    setError(null);
    setBusy(true);
    try {
      const body = await said;
      const answer = await outbox.write(method, path, body, label, id);
      draft.done(anew());
      await renew(client, whereOf(path, body));
      return answer;
    } catch (e) {
      setError(e);
      // On file under this id is something else: what is written here goes with a new one.
      if (e instanceof ApiError && e.code.endsWith("_differs") && "uuid" in begin)
        draft.change((d) => ({ ...d, uuid: crypto.randomUUID() }));
      return null;
    } finally {
      setBusy(false);
    }
  };
  return { v: draft.value, set, send, error, busy, drop: () => draft.done(anew()) };
}
