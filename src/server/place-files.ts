import { addPlaceFile, listPlaceFiles, type PlaceFile } from "@/data/delivery";
import { tell } from "@/data/audit";
import type { SignedIn } from "@/data/people";
import { longTransaction } from "@/data/pool";
import { inWorker } from "./work";
import { now } from "@/clock";

/** What a file of place data holds, in the form that is kept, or what is wrong with it. */
type PlacesRead =
  { ok: true; format: "csv" | "mmdb"; says: string; packed?: Uint8Array } | { ok: false; problem: string };

/** Reads a file of place data on a thread of its own: a large one takes seconds. */
export const readPlaces = (bytes: Uint8Array): Promise<PlacesRead> =>
  inWorker<PlacesRead>("places", bytes).catch((error: unknown) => ({
    ok: false,
    problem: `This file could not be read: ${(error as Error).message}. Nothing was changed.`,
  }));

export type PlacesAdded = { ok: true; files: PlaceFile[]; says: string } | { ok: false; problem: string };

/** Adds an uploaded file of place data to a site. What is no place data is refused with what was expected. */
export async function addPlaces(who: SignedIn, name: string, bytes: Uint8Array): Promise<PlacesAdded> {
  const { site } = who;
  const read = await readPlaces(bytes);
  if (!read.ok) return read;
  const shown = name.replace(/[^\p{L}\p{N} ._-]/gu, "").slice(0, 100) || `places.${read.format}`;
  const file = {
    id: `file-${now().toString(36)}`,
    name: shown,
    format: read.format,
    says: read.says,
    packed: read.packed,
  };
  await longTransaction(site, async (db) => {
    await addPlaceFile(site, file, bytes, db);
    await tell(site, who.id, { kind: "settings", says: `Place data was added: ${shown}, ${read.says}` }, db);
  });
  return { ok: true, files: await listPlaceFiles(site), says: read.says };
}
