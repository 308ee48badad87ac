import { readFileSync } from "node:fs";
import { parentPort, workerData } from "node:worker_threads";
import { speakBy } from "@/core/messages/t";
import { readPlaceFile } from "@/data/places";
import type { Work } from "../work";

/** Reads a file of place data, by its path or its bytes, and answers with what it holds, in the form that is kept, or with what is wrong. */
const { input: given, speech } = workerData as Work<string | Uint8Array>;
speakBy(() => speech);
const read = readPlaceFile(typeof given === "string" ? readFileSync(given) : given);
parentPort?.postMessage(read.ok ? { ok: true, format: read.format, says: read.says, packed: read.packed } : read);
