import { parentPort, workerData } from "node:worker_threads";
import { allFindings } from "@/core/analysis/findings";
import type { Domain } from "@/core/analysis/facet";
import { speakBy } from "@/core/messages/t";
import type { Work } from "../work";

const { input, speech } = workerData as Work<Domain>;
speakBy(() => speech);

/** Looks through a whole ruleset, and answers with all that was found. */
parentPort?.postMessage(allFindings(input));
