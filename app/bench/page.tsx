import { Suspense } from 'react';
import { BenchLoader } from './BenchLoader';

export default function BenchPage() {
  return (
    <Suspense>
      <BenchLoader />
    </Suspense>
  );
}
