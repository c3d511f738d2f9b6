/** Dates for a reader: the site's zone, the user's locale. Figures of measurement are never written here. */
export function day(iso: string, zone: string, locale: string): string {
  return new Intl.DateTimeFormat(locale, {
    timeZone: zone,
    day: "numeric",
    month: "short",
    year: "numeric",
  }).format(new Date(iso));
}
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
/** A local date-time field's text in a zone as an ISO instant. */
export function instant(local: string, zone: string): string {
  const guess = new Date(`${local}:00Z`);
  const parts = new Intl.DateTimeFormat("en-GB", {
    timeZone: zone,
    year: "numeric",
    month: "2-digit",
    day: "2-digit",
    hour: "2-digit",
    minute: "2-digit",
    hourCycle: "h23",
  }).formatToParts(guess);
  const at = (type: string) => Number(parts.find((p) => p.type === type)?.value);
  const shownAs = Date.UTC(at("year"), at("month") - 1, at("day"), at("hour"), at("minute"));
  return new Date(guess.getTime() - (shownAs - guess.getTime())).toISOString();
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
