import { ApiError } from "./client";

/** Dates for a reader: the site's zone, the user's locale. Figures of measurement are never written here. */
export function day(iso: string, zone: string, locale: string): string {
  return new Intl.DateTimeFormat(locale, {
    timeZone: zone,
    day: "numeric",
    month: "short",
    year: "numeric",
  }).format(new Date(iso));
}
/** The first letter of a month, for the scale of a year. */
export const monthName = (of: Date, locale: string): string =>
  new Intl.DateTimeFormat(locale, { month: "narrow", timeZone: "UTC" }).format(of);
export function dayTime(iso: string, zone: string, locale: string): string {
  return new Intl.DateTimeFormat(locale, {
    timeZone: zone,
    day: "numeric",
    month: "short",
    year: "numeric",
    hour: "2-digit",
    minute: "2-digit",
  }).format(new Date(iso));
}
/**
 * A local date-time field's text in a zone as an ISO instant. An hour that came twice is the first of the
 * two; one that the clocks left out is refused.
 */
export async function instant(local: string, zone: string): Promise<string> {
  // Fetched when the first time is typed: nothing else of the page needs it.
  const { Temporal } = await import("temporal-polyfill");
  const typed = Temporal.PlainDateTime.from(local);
  const there = typed.toZonedDateTime(zone, { disambiguation: "earlier" });
  if (!there.toPlainDateTime().equals(typed))
    throw new ApiError(
      422,
      "no_such_time",
      `${local.slice(11)} did not happen on ${local.slice(0, 10)}: the clocks went forward over it.`,
    );
  return there.toInstant().toString({ smallestUnit: "millisecond" });
}
/** An instant as the text of a local date-time field. */
export function localField(when: Date, zone: string): string {
  const parts = new Intl.DateTimeFormat("en-GB", {
    timeZone: zone,
    year: "numeric",
    month: "2-digit",
    day: "2-digit",
    hour: "2-digit",
    minute: "2-digit",
    hourCycle: "h23",
  }).formatToParts(when);
  const at = (type: string) => parts.find((p) => p.type === type)?.value ?? "";
  return `${at("year")}-${at("month")}-${at("day")}T${at("hour")}:${at("minute")}`;
}
