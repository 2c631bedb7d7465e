import type { NextConfig } from 'next';
import { dirname } from 'node:path';
import { fileURLToPath } from 'node:url';
import { SECURITY_HEADERS } from './scripts/securityHeaders.mjs';

const root = dirname(fileURLToPath(import.meta.url));

const config: NextConfig = {
  reactStrictMode: true,
  // what a component drew stays as long as what it was drawn from
  reactCompiler: true,
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
        headers: SECURITY_HEADERS,
      },
    ]);
  },
};
export default config;
