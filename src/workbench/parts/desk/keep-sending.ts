import { ActionError } from "../actions";

/** The first and the longest pause between two tries, in milliseconds. */
const firstPause = 1000;
const longestPause = 15_000;
/** So often something is tried at which the server itself fails: then it says so, since trying on would keep the rest waiting. */
const mostFailures = 6;

/** Whether trying again can help: the server was not reached, or is not ready. What it refused stays refused. */
const mayPass = (error: unknown): boolean =>
  !(error instanceof ActionError) || error.status >= 500 || error.status === 429;

/**
 * Asks until there is an answer: while the line or the server is away nothing is given up. It is tried again after a pause, and
 * at once when the browser is online again.
 * @param waiting told whether what was asked has to wait
 * @throws ActionError if it is refused
 */
export async function keepSending<T>(ask: () => Promise<T>, waiting: (waits: boolean) => void): Promise<T> {
  let failures = 0;
  for (let pause = firstPause; ; pause = Math.min(longestPause, pause * 2)) {
    try {
      const answer = await ask();
      waiting(false);
      return answer;
    } catch (error) {
      const failed = error instanceof ActionError && error.status === 500;
      if (!mayPass(error) || (failed && ++failures >= mostFailures)) {
        waiting(false);
        throw error;
      }
      waiting(true);
      await onlineOr(pause);
    }
  }
}

const onlineOr = (milliseconds: number): Promise<void> =>
  new Promise((resolve) => {
    const go = () => {
      window.removeEventListener("online", go);
      clearTimeout(timer);
      resolve();
    };
    const timer = setTimeout(go, milliseconds);
    window.addEventListener("online", go);
  });
