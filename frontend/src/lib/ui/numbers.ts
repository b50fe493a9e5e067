/**
 * A number with its thousands apart, as the service writes them. The browser's own words for
 * numbers take a tenth of a second to load on a phone, before the first of them is on show.
 */
export function grouped(value: number, decimals?: number): string {
  const [whole = '', rest] = (
    decimals === undefined ? `${Number(value.toFixed(3))}` : value.toFixed(decimals)
  ).split('.');
  const apart = whole.replace(/\B(?=(\d{3})+$)/g, ',').replace('-', '−');
  return rest === undefined ? apart : `${apart}.${rest}`;
}
