import type { Browser, Page } from "@playwright/test";

/** What the main thread of the page’s process had to do, in milliseconds of its own processor time: neighbours do not count. */
export interface MainThread {
  all: number;
  /** The longest task. */
  longest: number;
}

interface TraceEvent {
  name: string;
  ph: string;
  pid: number;
  tid: number;
  /** Processor time of the thread, in microseconds. */
  tdur?: number;
  args?: { name?: string };
}

/** Opens an address anew, and tells what its main thread does until so long after it was loaded (Chromium’s trace events). */
export async function mainThread(browser: Browser, page: Page, address: string, wait = 1200): Promise<MainThread> {
  await page.goto("about:blank");
  await browser.startTracing(page, { categories: ["toplevel", "devtools.timeline"] });
  await page.goto(address, { waitUntil: "load" });
  await page.waitForTimeout(wait);
  const { traceEvents } = JSON.parse((await browser.stopTracing()).toString()) as { traceEvents: TraceEvent[] };
  const mains = new Map<number, number>();
  for (const { name, pid, tid, args } of traceEvents)
    if (name === "thread_name" && args?.name === "CrRendererMain") mains.set(pid, tid);
  // Frames of a site have processes of their own: the workbench’s works most.
  const byProcess = new Map<number, MainThread>();
  for (const { name, ph, pid, tid, tdur = 0 } of traceEvents) {
    if (ph !== "X" || name !== "ThreadControllerImpl::RunTask" || mains.get(pid) !== tid) continue;
    const sum = byProcess.get(pid) ?? { all: 0, longest: 0 };
    byProcess.set(pid, { all: sum.all + tdur / 1000, longest: Math.max(sum.longest, tdur / 1000) });
  }
  return [...byProcess.values()].sort((a, b) => b.all - a.all)[0] ?? { all: 0, longest: 0 };
}
