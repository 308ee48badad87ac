import { addPlaceFile, listPlaceFiles, type PlaceFile } from "@/data/delivery";
import { tell } from "@/data/audit";
import type { SignedIn } from "@/data/people";
import { readPlaceFile } from "@/data/places";
import { now } from "@/clock";

export type PlacesAdded = { ok: true; files: PlaceFile[]; says: string } | { ok: false; problem: string };

/** Adds an uploaded file of place data to a site. What is no place data is refused with what was expected. */
export async function addPlaces(who: SignedIn, name: string, bytes: Uint8Array): Promise<PlacesAdded> {
  const { site } = who;
  const read = readPlaceFile(bytes);
  if (!read.ok) return read;
  const shown = name.replace(/[^\p{L}\p{N} ._-]/gu, "").slice(0, 100) || `places.${read.format}`;
  const file = { id: `file-${now().toString(36)}`, name: shown, format: read.format, says: read.says };
  await addPlaceFile(site, file, bytes);
  await tell(site, who.id, { kind: "settings", says: `Place data was added: ${shown}, ${read.says}` });
  return { ok: true, files: await listPlaceFiles(site), says: read.says };
}
