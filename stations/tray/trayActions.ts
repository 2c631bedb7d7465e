import { createContext, type ReactNode } from 'react';

/** What brings more frames: buttons that stand in the heading of the frames' tray. */
export const TrayActions = createContext<ReactNode>(null);
