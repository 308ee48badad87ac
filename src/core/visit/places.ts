import { t } from "../messages/t";
import Papa from "papaparse";
import type { Place } from "../formats/visit";
import type { Problem } from "../formats/problem";
import { parseBlock, type Address, type Block } from "./address";
import { openPlaces, packPlaces } from "./place-table";
import { isZone } from "../calendar/zone";

/** Looks up the place of an address; undefined if it is not known. Passed into the engine, which reads no files. */
export type PlaceLookup = (address: Address) => Place | undefined;

export const placeColumns = ["network", "country", "region", "city", "zone", "lat", "lon"] as const;
type Column = (typeof placeColumns)[number];

/**
 * Reads place data as CSV (RFC 4180): columns network, country, region, city, zone, lat, lon, in the order of its heading,
 * or in this one without a heading. The longest matching prefix answers. Every wrong line is named.
 */
export function readPlaceCsv(
  text: string,
): { lookup: PlaceLookup; rows: number; packed: Uint8Array } | { problems: Problem[] } {
  const parsed = Papa.parse<string[]>(text.replace(/^\uFEFF/, ""), { skipEmptyLines: "greedy" });
  const problems: Problem[] = [];
  const rows = parsed.data;
  const first = rows[0]?.map((cell) => cell.trim().toLowerCase()) ?? [];
  const headed = first.includes("network");
  const columns: readonly string[] = headed ? first : placeColumns;
  if (headed && !first.includes("country"))
    return {
      problems: [
        {
          path: "/1",
          code: "missing",
          problem: t("expected the columns {placeColumns}, found {first}", {
            placeColumns: placeColumns.join(", "),
            first: first.join(", "),
          }),
        },
      ],
    };

  const blocks: { block: Block; place: Place }[] = [];
  rows.slice(headed ? 1 : 0).forEach((row, index) => {
    const line = index + (headed ? 2 : 1);
    const cell = (name: Column): string | undefined => row[columns.indexOf(name)]?.trim() || undefined;
    const refuse = (problem: string) => problems.push({ path: `/${line}`, code: "form", problem });
    const block = parseBlock(cell("network") ?? "");
    if ("problem" in block) return refuse(t("network {problem}", { problem: block.problem }));
    const [lat, lon] = [Number(cell("lat") ?? NaN), Number(cell("lon") ?? NaN)];
    const country = cell("country");
    if (country && !/^[A-Za-z]{2}$/.test(country))
      return refuse(t('country must be a two-letter code, not "{country}"', { country }));
    const zone = cell("zone");
    if (zone && !isZone(zone)) return refuse(t('zone "{zone}" is no time zone', { zone }));
    const place: Place = {
      ...(country ? { country } : {}),
      ...(cell("region") ? { region: cell("region") } : {}),
      ...(cell("city") ? { city: cell("city") } : {}),
      ...(zone ? { zone } : {}),
      ...(Number.isFinite(lat) && Number.isFinite(lon) ? { lat, lon } : {}),
    };
    blocks.push({ block, place });
  });
  if (problems.length > 0) return { problems };
  const packed = packPlaces(blocks);
  return { rows: blocks.length, packed, lookup: openPlaces(packed) };
}

/** Several sources, one after the other: the first that knows the address answers. */
export const firstOf =
  (lookups: readonly PlaceLookup[]): PlaceLookup =>
  (address) => {
    for (const lookup of lookups) {
      const place = lookup(address);
      if (place) return place;
    }
    return undefined;
  };
