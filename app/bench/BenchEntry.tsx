'use client';
import dynamic from 'next/dynamic';
import { loadLoader } from './loadInPieces';
import { Waiting } from './Waiting';

/** The bench, whose code comes in pieces. */
export const BenchEntry = dynamic(loadLoader, { ssr: false, loading: () => <Waiting /> });
