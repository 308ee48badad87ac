import { Reader } from "mmdb-lib";
import type { Place } from "../formats/visit";
import type { Address } from "./address";
import type { PlaceLookup } from "./places";

/** The parts of a record that common MMDB place data sets share. */
interface Entry {
  country?: { iso_code?: string } | string;
  registered_country?: { iso_code?: string };
  country_code?: string;
  subdivisions?: { iso_code?: string }[];
  city?: { names?: Record<string, string> } | string;
  location?: { latitude?: number; longitude?: number; time_zone?: string };
}

function textOf(address: Address): string {
  const part = (shift: number, mask: bigint) => (address.bits >> BigInt(shift)) & mask;
  return address.family === 4
    ? [24, 16, 8, 0].map((shift) => part(shift, 255n)).join(".")
    : [112, 96, 80, 64, 48, 32, 16, 0].map((shift) => part(shift, 0xffffn).toString(16)).join(":");
}

/**
 * Makes a look-up of the bytes of an MMDB file. An IPv4-only file knows no IPv6 address.
 * @throws Error if the bytes are no MMDB file.
 */
export function readMmdb(bytes: Uint8Array): PlaceLookup {
  // Its types ask for a Buffer of Node.js; it reads any bytes, also in a browser. Entries are what the file has.
  const reader = new Reader<never>(bytes as never);
  const version = reader.metadata.ipVersion;
  return (address) => {
    if (address.family === 6 && version === 4) return undefined;
    const entry = reader.get(textOf(address)) as Entry | null;
    if (!entry) return undefined;
    const country =
      typeof entry.country === "string"
        ? entry.country
        : (entry.country?.iso_code ?? entry.country_code ?? entry.registered_country?.iso_code);
    const subdivision = entry.subdivisions?.[0]?.iso_code;
    const city = typeof entry.city === "string" ? entry.city : entry.city?.names?.en;
    const { latitude: lat, longitude: lon, time_zone: zone } = entry.location ?? {};
    const place: Place = {};
    if (country) place.country = country;
    if (country && subdivision) place.region = `${country}-${subdivision}`;
    if (city) place.city = city;
    if (zone) place.zone = zone;
    if (lat !== undefined && lon !== undefined) Object.assign(place, { lat, lon });
    return place;
  };
}
