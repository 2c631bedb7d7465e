/** A number with its sign, a real minus, and no more decimals than it needs. */
export function signed(value: number, decimals: number): string {
  const text = String(Number(Math.abs(value).toFixed(decimals)));
  if (Number(text) === 0) return '0';
  return `${value < 0 ? '−' : '+'}${text}`;
}
