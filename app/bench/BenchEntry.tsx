'use client';
import dynamic from 'next/dynamic';
import { loadLoader } from './loadLoader';
import { Unloaded, Waiting } from './Waiting';

// under way before the page is drawn for the first time
const early = typeof window === 'undefined' ? undefined : loadLoader().catch(() => Unloaded);

/** The bench, whose code comes in pieces. */
export const BenchEntry = dynamic(() => early ?? loadLoader(), { ssr: false, loading: () => <Waiting /> });
