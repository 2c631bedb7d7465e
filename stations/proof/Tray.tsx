'use client';
import { StepTray } from '../tray/StepTray';

/** The picture after every step. */
export function ProofTray() {
  return <StepTray />;
}
