import type { NextConfig } from 'next';
import { dirname } from 'node:path';
import { fileURLToPath } from 'node:url';

const root = dirname(fileURLToPath(import.meta.url));

const config: NextConfig = {
  reactStrictMode: true,
  poweredByHeader: false,
  compiler: { styledComponents: true },
  turbopack: {
    root,
    rules: {
      '*.mjs': {
        condition: { path: /react-(aria|stately)\/dist\/private\/intl\/\w+\/(?!en-US)[\w-]+\.mjs$/ },
        loaders: [`${root}/scripts/withoutLanguages.cjs`],
      },
    },
  },
  allowedDevOrigins: ['127.0.0.1'],
  headers() {
    return Promise.resolve([
      {
        source: '/:path*',
        headers: [
          // the three isolation headers give the workers one shared memory
          { key: 'Cross-Origin-Opener-Policy', value: 'same-origin' },
          { key: 'Cross-Origin-Embedder-Policy', value: 'require-corp' },
          { key: 'Cross-Origin-Resource-Policy', value: 'same-origin' },
          { key: 'X-Content-Type-Options', value: 'nosniff' },
          { key: 'Referrer-Policy', value: 'no-referrer' },
        ],
      },
    ]);
  },
};
export default config;
