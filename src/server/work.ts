import { createRequire } from "node:module";
import type * as threads from "node:worker_threads";
import { join } from "node:path";

// Had by way of `require`, since the bundler would look for the worker's file, which is made after it.
const { Worker } = createRequire(join(process.cwd(), "package.json"))("node:worker_threads") as typeof threads;

/** Workers are bundled to files of their own when the application is built (scripts/lib/bundle.mjs). */
const folder = join(process.cwd(), ".next/mirada");

/**
 * Does heavy work on a thread of its own, so that everybody else is still answered.
 * @throws Error with what went wrong in the worker
 */
export function inWorker<T>(name: "findings", input: unknown): Promise<T> {
  return new Promise((resolve, reject) => {
    const worker = new Worker(join(folder, `${name}.mjs`), { workerData: input });
    worker.once("message", (result: T) => {
      resolve(result);
      void worker.terminate();
    });
    worker.once("error", reject);
    worker.once("exit", (code) => reject(new Error(`the worker ended (${code})`)));
  });
}
