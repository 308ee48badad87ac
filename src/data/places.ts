import { locale, t } from "@/core/messages/t";
import { readFileSync } from "node:fs";
import { join } from "node:path";
import { parseBlock, type Block } from "@/core/visit/address";
import { isSpecial } from "@/core/visit/special";
import { readMmdb } from "@/core/visit/mmdb";
import { firstOf, readPlaceCsv, type PlaceLookup } from "@/core/visit/places";
import { openPlaces } from "@/core/visit/place-table";
import { keepPacked, listPlaceFiles, placeFileData } from "./delivery";

const countryFile = "node_modules/@ip-location-db/geo-whois-asn-country-mmdb/geo-whois-asn-country.mmdb";
let countries: PlaceLookup | undefined;
/** Country by address, from the open data set (CC0) that ships with the product. Read once a process. */
export function countryLookup(): PlaceLookup {
  if (!countries) {
    const read = readMmdb(readFileSync(join(process.cwd(), countryFile)));
    countries = (address) => (isSpecial(address) ? undefined : read(address));
  }
  return countries;
}

/** What a file of place data holds, or what is wrong with it. */
export type PlaceFileRead =
  | {
      ok: true;
      format: "csv" | "mmdb";
      lookup: PlaceLookup;
      says: string;
      /** In the form that is ready at once; an MMDB file is that by itself. */
      packed?: Uint8Array;
    }
  | { ok: false; problem: string };

/** Reads an uploaded file of place data, by what it is and not by its name. */
export function readPlaceFile(bytes: Uint8Array): PlaceFileRead {
  // The reader of MMDB files takes nothing but a Buffer; this one shares the bytes.
  const buffer = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const mmdb = buffer.lastIndexOf("\xab\xcd\xefMaxMind.com", undefined, "latin1");
  if (mmdb >= 0) {
    try {
      const lookup = readMmdb(buffer);
      // A walk through the tree tells damage that only shows when it is asked.
      for (const text of ["1.1.1.1", "81.2.69.160", "203.0.113.7", "2001:4860::1"]) {
        const block = parseBlock(text) as Block;
        lookup({ family: block.family, bits: block.bits });
      }
      return { ok: true, format: "mmdb", lookup, says: "MMDB" };
    } catch {
      return { ok: false, problem: t("This MMDB file is damaged. Nothing was changed.") };
    }
  }
  let text: string;
  try {
    text = new TextDecoder("utf-8", { fatal: true }).decode(bytes);
  } catch {
    return {
      ok: false,
      problem: t("This is no place data: expected an MMDB file or a CSV file in UTF-8. Nothing was changed."),
    };
  }
  const read = readPlaceCsv(text);
  if ("problems" in read) {
    const [first] = read.problems;
    const more = read.problems.length - 1;
    return {
      ok: false,
      problem: t(
        "Line {path}: {problem}{more}. Expected a CSV with the columns network, country, region, city, zone, lat, lon. Nothing was changed.",
        {
          path: first?.path.slice(1),
          problem: first?.problem,
          more: more > 0 ? t(" (and {more} more)", { more }) : "",
        },
      ),
    };
  }
  if (read.rows === 0)
    return {
      ok: false,
      problem: t(
        "This file is empty: expected a CSV with the columns network, country, region, city, zone, lat, lon. Nothing was changed.",
      ),
    };
  const { rows, lookup, packed } = read;
  return {
    ok: true,
    format: "csv",
    lookup,
    packed,
    says: t("{rows} networks", { rows: rows.toLocaleString(locale()) }),
  };
}

/** Look-ups by site, with the files that they were made of: large ones are not read anew for every release. */
const known = new Map<string, { files: string; lookup: PlaceLookup }>();

/** The look-up of a site as its files now are: the uploaded ones in their order, then the country data. */
export async function siteLookup(site: string): Promise<PlaceLookup> {
  const list = await listPlaceFiles(site);
  const files = list.map((file) => file.id).join("\n");
  const last = known.get(site);
  if (last?.files === files) return last.lookup;
  const lookups: PlaceLookup[] = [];
  for (const file of list) {
    const data = await placeFileData(site, file.id);
    if (data?.packed) {
      lookups.push(openPlaces(data.packed));
      continue;
    }
    // An MMDB file; or a table from before there was a form for them, which is read this once.
    const read = data && readPlaceFile(data.bytes);
    if (!read?.ok) continue;
    lookups.push(read.lookup);
    if (read.packed) await keepPacked(site, file.id, read.packed);
  }
  const lookup = firstOf([...lookups, countryLookup()]);
  known.set(site, { files, lookup });
  return lookup;
}
