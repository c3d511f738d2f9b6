/** The typed client, and the one error every refusal becomes. */
import createClient from "openapi-fetch";
import type { components, paths } from "./generated/schema";

export type Schemas = components["schemas"];
export type Problem = Schemas["Problem"];

/** A refusal or a failure. `status` 0: no answer at all. */
export class ApiError extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
    readonly problems: Problem[] = [],
    readonly current: Record<string, unknown> | null = null,
  ) {
    super(message);
  }
  /** Nothing was decided: the same request may be sent again. A server that failed has refused nothing. */
  get again(): boolean {
    return (
      this.status === 0 ||
      this.status === 408 ||
      this.status === 425 ||
      this.status === 429 ||
      this.status >= 500
    );
  }
  /** Nobody was reached at all: what else waits would fare alike. */
  get away(): boolean {
    return this.status === 0 || this.status === 502 || this.status === 503 || this.status === 504;
  }
}

let csrf = "";
/** Who this page believes is signed in: another tab of the device may have switched the person meanwhile. */
let sentAs = "";
export const setCsrf = (token: string, of = sentAs) => {
  csrf = token;
  sentAs = of;
};
const ours = (): Record<string, string> => ({
  "X-CSRFToken": csrf,
  ...(sentAs ? { "Sent-As": encodeURIComponent(sentAs) } : {}),
});
type Heard = (status: number, code: string, wrote: boolean) => void;
let heard: Heard = () => undefined;
/** Who wants to know of answers that concern the whole page (signed out, no connection). */
export const onAnswer = (listener: Heard) => {
  heard = listener;
};

/** A request with our token; throws ApiError for everything that is not a good answer. */
export async function send(
  method: string,
  path: string,
  body?: unknown,
  signal?: AbortSignal,
  head: Record<string, string> = {},
  renewed = false,
): Promise<unknown> {
  let response: Response;
  try {
    response = await fetch(path, {
      method,
      credentials: "same-origin",
      headers: {
        ...ours(),
        ...head,
        ...(body === undefined ? {} : { "Content-Type": "application/json" }),
      },
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
      ...(signal ? { signal } : {}),
    });
  } catch (error) {
    if (error instanceof DOMException && error.name === "AbortError") throw error;
    heard(0, "no_connection", false);
    throw new ApiError(0, "no_connection", "No connection to the server. Entries are stored on this device.");
  }
  try {
    return await read(response, method !== "GET");
  } catch (error) {
    // Signed in again in another tab: our token is old, nothing was done. Take the new one and ask once more.
    if (!(error instanceof ApiError) || error.code !== "csrf" || renewed) throw error;
    setCsrf(((await send("GET", "/api/v1/session")) as Schemas["SessionOut"]).csrf);
    return send(method, path, body, signal, head, true);
  }
}

/** A file with its words, as a form. */
export async function sendFile(
  path: string,
  words: Record<string, string>,
  file: Blob,
  head: Record<string, string> = {},
  renewed = false,
): Promise<unknown> {
  const form = new FormData();
  Object.entries(words).forEach(([name, value]) => form.append(name, value));
  form.append("file", file);
  let response: Response;
  try {
    response = await fetch(path, {
      method: "POST",
      credentials: "same-origin",
      headers: { ...ours(), ...head },
      body: form,
    });
  } catch {
    heard(0, "no_connection", false);
    throw new ApiError(
      0,
      "no_connection",
      "No connection to the server. The file was not sent: choose it again.",
    );
  }
  try {
    return await read(response, true);
  } catch (error) {
    if (!(error instanceof ApiError) || error.code !== "csrf" || renewed) throw error;
    setCsrf(((await send("GET", "/api/v1/session")) as Schemas["SessionOut"]).csrf);
    return sendFile(path, words, file, head, true);
  }
}

async function read(response: Response, wrote = false): Promise<unknown> {
  const text = await response.text();
  if (response.ok) {
    heard(response.status, "", wrote);
    return text ? JSON.parse(text) : null;
  }
  let body: Partial<Schemas["ProblemBody"]> = {};
  try {
    body = JSON.parse(text) as Partial<Schemas["ProblemBody"]>;
  } catch {
    // A proxy's page, or Django's CSRF page: no shape of ours.
  }
  const code = body.code ?? `http_${response.status}`;
  heard(response.status, code, wrote);
  throw new ApiError(
    response.status,
    code,
    body.detail ?? "The server could not answer. Try again.",
    body.problems,
    body.current ?? null,
  );
}

const throughSend: typeof fetch = async (input) => {
  const request = input as Request;
  return fetch(request);
};
/** Reads, typed by the generated schema. */
export const api = createClient<paths>({ baseUrl: "", fetch: throughSend });
api.use({
  async onResponse({ response }) {
    if (!response.ok) await read(response);
    else heard(response.status, "", false);
    return undefined;
  },
  onError({ error }) {
    // Nobody waits for it any more: that says nothing of the connection.
    if (error instanceof DOMException && error.name === "AbortError") return undefined;
    heard(0, "no_connection", false);
    return new ApiError(0, "no_connection", "No connection to the server.");
  },
});
