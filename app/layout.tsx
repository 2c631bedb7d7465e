import '@fontsource/ibm-plex-sans/400.css';
import '@fontsource/ibm-plex-sans/500.css';
import '@fontsource/ibm-plex-sans/600.css';
import '@fontsource/ibm-plex-mono/400.css';
import { type Metadata } from 'next';
import { headers } from 'next/headers';
import { type ReactNode } from 'react';
import { GlobalStyle } from '@/ui/GlobalStyle';
import { StyleRegistry } from './StyleRegistry';

export const metadata: Metadata = {
  title: 'Marsh',
  description: 'Fit, merge, layer and deliver bracketed exposures, with every step measured.',
};

/** Has the application's own files kept by the browser, before anything else is loaded; where that is not possible the network is needed as ever. */
const KEEP_OFFLINE = "navigator.serviceWorker?.register('/sw.js').catch(() => {})";

export default async function RootLayout({ children }: { children: ReactNode }) {
  // every answer carries its own script nonce, so no page is made in advance
  const nonce = (await headers()).get('x-nonce') ?? undefined;
  return (
    <html lang="en">
      <body>
        {process.env.NODE_ENV === 'production' && (
          <script nonce={nonce} dangerouslySetInnerHTML={{ __html: KEEP_OFFLINE }} />
        )}
        <StyleRegistry>
          <GlobalStyle />
          {children}
        </StyleRegistry>
      </body>
    </html>
  );
}
