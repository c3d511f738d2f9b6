import { AGING_MS, useGet, type Schemas } from "../base";

export type Plant = Schemas["PlantOut"];
export type PlantSet = Schemas["PlantSet"];
export type ShownFinding = Schemas["ShownFinding"];

export const usePlant = (site: number | null) =>
  useGet("/api/v1/sites/{site_id}/plant", site === null ? null : { site_id: site }, {
    refetchInterval: AGING_MS,
  });
export const useSetState = (id: number) => useGet("/api/v1/sets/{set_id}/state", { set_id: id });
export const useHistory = (id: number, before: string) =>
  useGet("/api/v1/sets/{set_id}/history", { set_id: id, before });
/** The newest points of each series, as the set's page brings them; all of them only when somebody asks. */
export const useTrends = (id: number) => useGet("/api/v1/sets/{set_id}/trends/newest", { set_id: id });
export const useAllTrends = (id: number | null) =>
  useGet("/api/v1/sets/{set_id}/trends", id === null ? null : { set_id: id });
export const useRecord = (id: number | null) =>
  useGet("/api/v1/records/{record_id}", id === null ? null : { record_id: id });
export const useRules = (site: number | null) =>
  useGet("/api/v1/sites/{site_id}/rules", site === null ? null : { site_id: site });
