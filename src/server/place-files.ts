import { t } from "@/core/messages/t";
import { readFile } from "node:fs/promises";
import { addPlaceFile, listPlaceFiles, type PlaceFile } from "@/data/delivery";
import { tell } from "@/data/audit";
import type { SignedIn } from "@/data/people";
import { longTransaction } from "@/data/pool";
import { inWorker } from "./work";
import { now } from "@/clock";

/** What a file of place data holds, in the form that is kept, or what is wrong with it. */
type PlacesRead =
  { ok: true; format: "csv" | "mmdb"; says: string; packed?: Uint8Array } | { ok: false; problem: string };

/** Reads a file of place data, by its path or its bytes, on a thread of its own: a large one takes seconds. */
export const readPlaces = (file: string | Uint8Array): Promise<PlacesRead> =>
  inWorker<PlacesRead>("places", file).catch((error: unknown) => ({
    ok: false,
    problem: t("This file could not be read: {message}. Nothing was changed.", { message: (error as Error).message }),
  }));

export type PlacesAdded = { ok: true; files: PlaceFile[]; says: string } | { ok: false; problem: string };

/** Adds an uploaded file of place data to a site, by its path. What is no place data is refused with what was expected. */
export async function addPlaces(who: SignedIn, name: string, path: string): Promise<PlacesAdded> {
  const { site } = who;
  const read = await readPlaces(path);
  if (!read.ok) return read;
  const shown = name.replace(/[^\p{L}\p{N} ._-]/gu, "").slice(0, 100) || `places.${read.format}`;
  const file = {
    id: `file-${now().toString(36)}`,
    name: shown,
    format: read.format,
    says: read.says,
    packed: read.packed,
  };
  const bytes = await readFile(path);
  await longTransaction(site, async (db) => {
    await addPlaceFile(site, file, bytes, db);
    await tell(
      site,
      who.id,
      { kind: "settings", says: t("Place data was added: {shown}, {says}", { shown, says: read.says }) },
      db,
    );
  });
  return { ok: true, files: await listPlaceFiles(site), says: read.says };
}
