import type { PlaceEntry } from "../formats/ruleset";
import { fold } from "../text/fold";
import { continentNames, continents, countryCodes, countryName } from "../visit/countries";

/**
 * Reads a place as it is typed: a country (`PT`, `Portugal`) or continent (`Europe`), a region (`PT-11`), a city with its country (`Lisbon, PT`), or a circle
 * (latitude, longitude, kilometres: `38.72 -9.14 50 km`). Undefined if it is none of these.
 */
export function readPlaceEntry(text: string): PlaceEntry | undefined {
  const trimmed = text.trim();
  const known = (code: string): string | undefined => countryCodes.find((item) => item === code.toUpperCase());
  const region = /^([A-Za-z]{2})-([A-Za-z0-9]{1,3})$/.exec(trimmed);
  if (region) {
    const country = known(region[1] as string);
    return country === undefined ? undefined : { country, region: trimmed.toUpperCase() };
  }
  if (/^[A-Za-z]{2}$/.test(trimmed)) {
    const country = known(trimmed);
    return country === undefined ? undefined : { country };
  }
  const city = /^(.+),\s*([A-Za-z]{2})$/.exec(trimmed);
  if (city) {
    const country = known(city[2] as string);
    return country === undefined ? undefined : { country, city: (city[1] as string).trim() };
  }
  const wanted = fold(trimmed);
  const country = countryCodes.find((code) => fold(countryName(code)) === wanted);
  if (country) return { country };
  const continent = continents.find((code) => fold(continentNames[code]) === wanted);
  if (continent) return { continent };
  const circle = /^(-?\d+(?:\.\d+)?)[\s,;]+(-?\d+(?:\.\d+)?)[\s,;]+(\d+(?:\.\d+)?)\s*(?:km)?$/i.exec(trimmed);
  if (circle) {
    const [lat, lon, km] = circle.slice(1).map(Number) as [number, number, number];
    if (Math.abs(lat) <= 90 && Math.abs(lon) <= 180 && km > 0) return { lat, lon, km };
  }
  return undefined;
}
