import { type Browser, type Page } from '@playwright/test';

/** The longest task of a page's thread. */
export interface LongestTask {
  /** milliseconds that the page could answer nobody */
  readonly held: number;
  /** milliseconds of them that its thread really ran: the rest others had the core */
  readonly ran: number;
}

interface TraceEvent {
  readonly name: string;
  readonly pid: number;
  readonly tid: number;
  /** microseconds by the clock, and of the thread */
  readonly dur?: number;
  readonly tdur?: number;
  readonly args?: { readonly name?: string };
}

/** Follows a page's thread while something happens, by the browser's own trace. */
export async function longestTask(
  browser: Browser,
  page: Page,
  run: () => Promise<void>,
): Promise<LongestTask> {
  await browser.startTracing(page, { categories: ['toplevel'] });
  let trace: Buffer;
  try {
    await run();
  } finally {
    trace = await browser.stopTracing();
  }
  const { traceEvents } = JSON.parse(trace.toString()) as { readonly traceEvents: readonly TraceEvent[] };
  const keyOf = ({ pid, tid }: TraceEvent): string => `${pid} ${tid}`;
  const pages = new Set(
    traceEvents.filter((e) => e.name === 'thread_name' && e.args?.name === 'CrRendererMain').map(keyOf),
  );
  const tasks = traceEvents.filter((e) => /RunTask$/.test(e.name) && pages.has(keyOf(e)));
  if (tasks.length === 0) throw new Error('the trace holds no task of the page');
  return {
    held: Math.max(...tasks.map((t) => (t.dur ?? 0) / 1000)),
    ran: Math.max(...tasks.map((t) => (t.tdur ?? t.dur ?? 0) / 1000)),
  };
}
