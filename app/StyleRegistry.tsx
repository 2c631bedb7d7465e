'use client';
import { useServerInsertedHTML } from 'next/navigation';
import { type ReactNode, useEffect, useState } from 'react';
import { restoreSurround } from '@/ui/surround';
import { ServerStyleSheet, StyleSheetManager } from 'styled-components';

/** Collects the styles of the first answer, so that it arrives styled, and brings back the chosen surround. */
export function StyleRegistry({ children }: { children: ReactNode }) {
  useEffect(restoreSurround, []);
  const [sheet] = useState(() => new ServerStyleSheet());
  useServerInsertedHTML(() => {
    const styles = sheet.getStyleElement();
    sheet.instance.clearTag();
    return <>{styles}</>;
  });
  if (typeof window !== 'undefined') return <>{children}</>;
  return <StyleSheetManager sheet={sheet.instance}>{children}</StyleSheetManager>;
}
