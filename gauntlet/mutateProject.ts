/** What a field may hold that nobody expects there. */
const ODD: readonly unknown[] = [
  ...[
    null,
    true,
    false,
    0,
    -1,
    1e308,
    -1e308,
    1e-308,
    5e9,
    0.5,
    '',
    'never',
    '2026-13-45T99:99:99Z',
    '\u0000',
    '\ud83e',
  ],
  ...['<img src=x onerror=alert(1)>', '__proto__', 'constructor', '../../x', 'a&b=c#d%2e', 'x'.repeat(5000)],
  ...[[], {}, [[]], [null], [0, 0, 0, 0, 0, 0, 0, 0, 0], [1, 2, 3], { x: 0, y: 0, width: 1e6, height: 1e6 }],
];

type Holder = Record<string | number, unknown>;

/** All places of a plain value: the object that holds it and its key. */
function places(value: unknown, found: [Holder, string | number][] = []): [Holder, string | number][] {
  if (typeof value !== 'object' || value === null) return found;
  for (const key of Object.keys(value)) {
    found.push([value as Holder, key]);
    places((value as Holder)[key], found);
  }
  return found;
}

/** A project whose fields were changed, taken away, doubled, added or exchanged. @param random 0…1, seeded */
export function mutateProject(project: unknown, random: () => number): unknown {
  const below = (n: number): number => Math.floor(random() * n);
  const copy: unknown = JSON.parse(JSON.stringify(project));
  // half of them are plausible: numbers a little off, switches thrown
  const mild = random() < 0.5;
  for (let k = below(mild ? 6 : 3); k >= 0; k--) {
    const all = places(copy);
    if (all.length === 0) return copy;
    const [holder, key] = all[below(all.length)];
    const value = holder[key];
    switch (mild ? 3 : below(7)) {
      case 0:
        if (Array.isArray(holder)) holder.splice(Number(key), 1);
        else delete holder[key];
        break;
      case 1:
        if (Array.isArray(value) && value.length > 0)
          value.push(...Array<unknown>(1 + below(40)).fill(value[0]));
        else holder[key] = ODD[below(ODD.length)];
        break;
      case 2: {
        const [from, other] = all[below(all.length)];
        holder[key] = structuredClone(from[other]);
        break;
      }
      case 3:
        if (typeof value === 'number') holder[key] = value * (random() * 4 - 2) + below(3) - 1;
        else if (typeof value === 'boolean') holder[key] = !value;
        else if (!mild) holder[key] = ODD[below(ODD.length)];
        break;
      case 4:
        if (!Array.isArray(holder)) holder[`extra${below(9)}`] = ODD[below(ODD.length)];
        break;
      default:
        holder[key] = ODD[below(ODD.length)];
    }
  }
  return copy;
}
