/** What the forms of a test put into the outbox, and what they are refused with; nothing leaves the device. */
import { vi } from "vitest";
import type { ApiError } from "./client";
import { outbox } from "./outbox";

interface Write {
  method: string;
  path: string;
  body: Record<string, unknown>;
  label: string;
  id: string;
}
export const writes = { sent: [] as Write[], refuse: null as ApiError | null, answer: {} };

/** From here on every write is caught; what is typed begins with nothing kept. */
export function catchWrites(): void {
  localStorage.clear();
  writes.sent.length = 0;
  Object.assign(writes, { refuse: null, answer: {} });
  vi.spyOn(outbox, "write").mockImplementation(async (method, path, body, label, id = "") => {
    const said = (await (body as unknown)) as Record<string, unknown>;
    writes.sent.push({ method, path, body: said, label, id });
    if (writes.refuse) throw writes.refuse;
    return writes.answer as never;
  });
}
