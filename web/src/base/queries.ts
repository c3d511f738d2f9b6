import { useQuery } from "@tanstack/react-query";
import { api, send, type Schemas } from "./client";
import type { paths } from "./generated/schema";

type Ok<P extends keyof paths> = paths[P] extends {
  get: { responses: { 200: { content: { "application/json": infer R } } } };
}
  ? R
  : never;
type GetPath = { [P in keyof paths]: paths[P] extends { get: object } ? P : never }[keyof paths];
type Params = Record<string, string | number>;

/** A read, typed by its address. `params` null: not yet. Names that the address does not hold go into the query. */
export function useGet<P extends GetPath>(
  path: P,
  params: Params | null,
  options: {
    refetchInterval?: number | ((got: Ok<P> | undefined) => number | false);
    staleTime?: number;
    taken?: (got: Ok<P>) => void;
  } = {},
) {
  const { taken, refetchInterval: every, ...rest } = options;
  return useQuery<Ok<P>>({
    queryKey: [path, params],
    enabled: params !== null,
    ...rest,
    refetchInterval: (q) => (typeof every === "function" ? every(q.state.data) : (every ?? false)),
    queryFn: async ({ signal }): Promise<Ok<P>> => {
      const inPath: Params = {};
      const query: Params = {};
      for (const [name, value] of Object.entries(params ?? {}))
        (path.includes(`{${name}}`) ? inPath : query)[name] = value;
      const got = await api.GET(path as never, { params: { path: inPath, query }, signal } as never);
      const { data } = got as { data: Ok<P> };
      taken?.(data);
      return data;
    },
  });
}
/** Unit signs by code. */
export function useSymbols(): Record<string, string> {
  const units = useGet("/api/v1/units", {}, { staleTime: Infinity });
  const out: Record<string, string> = {};
  for (const list of Object.values(units.data ?? {}))
    for (const u of list as Schemas["UnitOut"][]) out[u.code] = u.symbol;
  return out;
}
/** A JSON schema from the server: labels, units and bounds of a form's figures. */
export function useSchema(path: string) {
  return useQuery({
    queryKey: ["schema", path],
    staleTime: Infinity,
    queryFn: ({ signal }) => send("GET", path, undefined, signal),
  });
}
