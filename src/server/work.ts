import { createRequire } from "node:module";
import type * as threads from "node:worker_threads";
import { join } from "node:path";
import { speech, type Speech } from "@/core/messages/t";

// Had by way of `require`, since the bundler would look for the worker's file, which is made after it.
const { Worker } = createRequire(join(process.cwd(), "package.json"))("node:worker_threads") as typeof threads;

/** Workers are bundled to files of their own when the application is built (scripts/lib/bundle.mjs). */
const folder = join(process.cwd(), ".next/mirada");

/** What a worker is given, and the language of whoever asked for it. */
export interface Work<T = unknown> {
  input: T;
  speech: Speech;
}

/** Heavy work was given up. */
export class TookTooLong extends Error {
  constructor(patience: number) {
    super(`it took longer than ${patience / 1000} seconds`);
  }
}

/**
 * Does heavy work on a thread of its own, so that everybody else is still answered.
 * @param patience in milliseconds
 * @throws TookTooLong; Error with what went wrong in the worker
 */
export function inWorker<T>(name: "findings" | "places", input: unknown, patience = 120_000): Promise<T> {
  return new Promise((resolve, reject) => {
    const worker = new Worker(join(folder, `${name}.mjs`), { workerData: { input, speech: speech() } satisfies Work });
    const late = setTimeout(() => {
      reject(new TookTooLong(patience));
      void worker.terminate();
    }, patience);
    worker.once("message", (result: T) => {
      resolve(result);
      void worker.terminate();
    });
    worker.once("error", reject);
    worker.once("exit", (code) => {
      clearTimeout(late);
      reject(new Error(`the worker ended (${code})`));
    });
  });
}
