import '@fontsource/ibm-plex-sans/400.css';
import '@fontsource/ibm-plex-sans/500.css';
import '@fontsource/ibm-plex-sans/600.css';
import '@fontsource/ibm-plex-mono/400.css';
import { type Metadata } from 'next';
import { connection } from 'next/server';
import { type ReactNode } from 'react';
import { GlobalStyle } from '@/ui/GlobalStyle';
import { StyleRegistry } from './StyleRegistry';

export const metadata: Metadata = {
  title: 'Marsh',
  description: 'Fit, merge, layer and deliver bracketed exposures, with every step measured.',
};

export default async function RootLayout({ children }: { children: ReactNode }) {
  // every answer carries its own script nonce, so no page is made in advance
  await connection();
  return (
    <html lang="en">
      <body>
        <StyleRegistry>
          <GlobalStyle />
          {children}
        </StyleRegistry>
      </body>
    </html>
  );
}
