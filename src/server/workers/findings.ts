import { parentPort, workerData } from "node:worker_threads";
import { allFindings } from "@/core/analysis/findings";
import type { Domain } from "@/core/analysis/facet";

/** Looks through a whole ruleset, and answers with all that was found. */
parentPort?.postMessage(allFindings(workerData as Domain));
