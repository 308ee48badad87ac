import { listFailures, type Failure } from "@/data/failures";
import { listProcesses, type RunningProcess } from "@/data/processes";
import { action } from "../act";

/** What runs, and what failed lately. */
export interface HealthNow {
  processes: RunningProcess[];
  failures: Failure[];
  /** How long the database took to tell that, in milliseconds. */
  took: number;
}

export const healthActions = {
  /** Processes on this database; failures of the site, and of all sites together. */
  health: action("build", [], async (who): Promise<HealthNow> => {
    const began = performance.now();
    const [processes, failures] = await Promise.all([listProcesses(), listFailures(who.site)]);
    return { processes, failures, took: performance.now() - began };
  }),
};
