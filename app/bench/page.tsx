import { Suspense } from 'react';
import { BenchEntry } from './BenchEntry';

export default function BenchPage() {
  return (
    <Suspense>
      <BenchEntry />
    </Suspense>
  );
}
