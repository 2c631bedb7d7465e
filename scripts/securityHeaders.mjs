/** What every answer of the server says, whatever it is. @type {{ key: string, value: string }[]} */
export const SECURITY_HEADERS = [
  // the three isolation headers give the workers one shared memory
  { key: 'Cross-Origin-Opener-Policy', value: 'same-origin' },
  { key: 'Cross-Origin-Embedder-Policy', value: 'require-corp' },
  { key: 'Cross-Origin-Resource-Policy', value: 'same-origin' },
  { key: 'X-Content-Type-Options', value: 'nosniff' },
  { key: 'Referrer-Policy', value: 'no-referrer' },
];
