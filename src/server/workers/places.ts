import { parentPort, workerData } from "node:worker_threads";
import { readPlaceFile } from "@/data/places";

/** Reads a file of place data, and answers with what it holds, in the form that is kept, or with what is wrong. */
const read = readPlaceFile(workerData as Uint8Array);
parentPort?.postMessage(read.ok ? { ok: true, format: read.format, says: read.says, packed: read.packed } : read);
