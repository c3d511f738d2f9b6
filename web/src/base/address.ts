/** An address of the API with what it holds filled in, and what may be written to it: by the generated schema. */
import type { paths } from "./generated/schema";

export type Verb = "POST" | "PUT" | "PATCH" | "DELETE";
export type ApiPath = keyof paths;
/** The filled-in address, which remembers what it was filled into. */
export type Address<P extends ApiPath> = string & { readonly of: P };

type Names<P extends string> = P extends `${string}{${infer N}}${infer Rest}` ? N | Names<Rest> : never;
type Op<P extends ApiPath, M extends Verb> = NonNullable<paths[P][Lowercase<M> & keyof paths[P]]>;
type Said<C> = C extends { "application/json": infer B }
  ? B
  : C extends { "multipart/form-data": infer F }
    ? Omit<F, "file">
    : never;
/** A number may go as it was typed: what is none the server says. Of an entry the server fills in who and how late. */
type AsTyped<T> = {
  [K in keyof T]: K extends "entries"
    ? T[K] extends (infer E)[]
      ? Partial<E>[]
      : never
    : T[K] extends number | null | undefined
      ? T[K] | string
      : T[K];
};
/** What an act takes; nothing where it takes none. */
export type Body<P extends ApiPath, M extends Verb> =
  Op<P, M> extends { requestBody: { content: infer C } } ? AsTyped<Said<C>> : undefined;
type Good = 200 | 201;
/** What a read or an act answers. */
export type Answer<P extends ApiPath, M extends Verb | "GET"> =
  NonNullable<paths[P][Lowercase<M> & keyof paths[P]]> extends { responses: infer R }
    ? { [S in Good & keyof R]: R[S] extends { content: { "application/json": infer A } } ? A : never }[Good &
        keyof R]
    : never;

/** A bench, by the name that its addresses carry; and the addresses of one kind, of whichever bench. */
export type BenchName = ApiPath extends infer P
  ? P extends `/api/v1/benches/${infer B}/evaluate`
    ? B
    : never
  : never;
export type RecordsPath = Extract<ApiPath, `/api/v1/benches/${string}/records`>;
/** A bench whose sheet stays open, for entries of several devices. */
export type SharedBench = ApiPath extends infer P
  ? P extends `/api/v1/benches/${infer B}/sheets/{uuid}/entries`
    ? B
    : never
  : never;
export type EntriesPath = `/api/v1/benches/${SharedBench}/sheets/{uuid}/entries`;

type NamesIn<U> = U extends unknown ? keyof U : never;
type Under<U, K> = U extends unknown ? (K extends keyof U ? U[K] : never) : never;
/** One of several kinds, with whatever fields any of them has: as it is while somebody types. */
export type Loosely<U> = { [K in NamesIn<U>]?: Under<U, K> };
type EntryOf<T> = T extends { entries: { body?: infer E }[] } ? E : never;
/** What an entry of this bench may say, by the address that it is judged at. */
export type EntryBody<B extends BenchName> = Loosely<EntryOf<Body<`/api/v1/benches/${B}/evaluate`, "POST">>>;
/** What this bench answers, with its own drawing data. */
export type ShownBy<B extends BenchName> = Answer<`/api/v1/benches/${B}/evaluate`, "POST">;

export function address<P extends ApiPath>(path: P, names: Record<Names<P>, string | number>): Address<P> {
  const filled = path.replace(/\{(\w+)\}/g, (_, name: string) =>
    encodeURIComponent(String((names as Record<string, string | number>)[name])),
  );
  return filled as Address<P>;
}
