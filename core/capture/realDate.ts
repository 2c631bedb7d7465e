/** ISO 8601 as `Date.toISOString` writes it, or without the zone: years 1900 to 2999. */
const STAMP = /^(19|2\d)\d\d-\d\d-\d\d(T\d\d:\d\d(:\d\d(\.\d{1,9})?)?(Z|[+-]\d\d:\d\d)?)?$/;

/** Whether a text is a point in time that there was or will be. */
export function isRealDate(text: string): boolean {
  return STAMP.test(text) && Number.isFinite(Date.parse(text));
}
