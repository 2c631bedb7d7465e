import { type Verdict } from '@/core/proof/finding';
import { COLOUR } from './tokens';

const NAMES: Record<Verdict | 'none', string> = {
  pass: 'fine',
  watch: 'to be watched',
  fail: 'to be mended',
  none: 'not made yet',
};

/** A verdict by shape and colour: disc pass, triangle watch, square fail, ring not made. */
export function VerdictMark({ verdict, size = 13 }: { verdict: Verdict | 'none'; size?: number }) {
  return (
    <svg
      width={size}
      height={size}
      viewBox="0 0 14 14"
      role="img"
      aria-label={NAMES[verdict]}
      style={{ flex: 'none' }}
    >
      {verdict === 'pass' && <circle cx="7" cy="7" r="6" fill={COLOUR.pass} />}
      {verdict === 'watch' && <path d="M7 0.8 13.6 12.8H0.4Z" fill={COLOUR.watch} />}
      {verdict === 'fail' && <rect x="1" y="1" width="12" height="12" fill={COLOUR.fail} />}
      {verdict === 'none' && (
        <circle cx="7" cy="7" r="5.2" fill="none" stroke={COLOUR.control} strokeWidth="1.6" />
      )}
    </svg>
  );
}
