import { type Finding } from '@/core/proof/finding';

/** A measured value with its unit, as many digits as mean something. */
export function formatValue(value: number, unit: string): string {
  const digits =
    unit === '' ? 0 : unit === 'px' || unit === '°' || unit === 'EV' ? 2 : Math.abs(value) < 10 ? 2 : 1;
  const text = value.toFixed(digits).replace('-', '−');
  return unit === '' ? text : unit === '°' ? `${text}°` : `${text} ${unit}`;
}

/** The short line of the trail. */
export function findingLine(finding: Finding): string {
  return `${finding.label.toLowerCase()} ${formatValue(finding.value, finding.unit).replace(' ', '\u00a0')}`;
}

/** Stops with a sign: `+2.0 EV`. */
export function formatStops(stops: number, digits = 1): string {
  const text = Math.abs(stops).toFixed(digits);
  return `${Number(text) === 0 ? '' : stops < 0 ? '−' : '+'}${text} EV`;
}
