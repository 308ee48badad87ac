import type { PlaceEntry, PlaceList } from "../formats/ruleset";
import type { Place } from "../formats/visit";
import { comparable } from "../text/fold";
import { continentOf } from "../visit/countries";
import { NO, truthOf, UNKNOWN, YES, type Truth } from "./truth";

const radius = 6371;
const radians = (degrees: number): number => (degrees * Math.PI) / 180;

/** Length of the great circle between two points (WGS 84 degrees) on a sphere of 6,371 km, in km (haversine formula). */
export function distance(lat1: number, lon1: number, lat2: number, lon2: number): number {
  const h =
    Math.sin(radians(lat2 - lat1) / 2) ** 2 +
    Math.cos(radians(lat1)) * Math.cos(radians(lat2)) * Math.sin(radians(lon2 - lon1) / 2) ** 2;
  return 2 * radius * Math.asin(Math.min(1, Math.sqrt(h)));
}

type PlaceTest = (place: Place) => Truth;

function entryTest(entry: PlaceEntry, lists: ReadonlyMap<string, PlaceTest>): PlaceTest {
  if ("list" in entry) return lists.get(entry.list) ?? (() => NO);
  if ("continent" in entry) {
    const continent = entry.continent.toUpperCase();
    return (place) => {
      const known = place.country && continentOf(place.country.toUpperCase());
      return known ? truthOf(known === continent) : UNKNOWN;
    };
  }
  if ("km" in entry)
    return ({ lat, lon }) =>
      lat === undefined || lon === undefined ? UNKNOWN : truthOf(distance(lat, lon, entry.lat, entry.lon) <= entry.km);
  const country = entry.country.toUpperCase();
  const region = entry.region?.toUpperCase();
  const city = entry.city === undefined ? undefined : comparable(entry.city);
  return (place) => {
    let truth: Truth = place.country === undefined ? UNKNOWN : truthOf(place.country.toUpperCase() === country);
    if (region !== undefined)
      truth = Math.min(
        truth,
        place.region === undefined ? UNKNOWN : truthOf(place.region.toUpperCase() === region),
      ) as Truth;
    if (city !== undefined)
      truth = Math.min(truth, place.city === undefined ? UNKNOWN : truthOf(comparable(place.city) === city)) as Truth;
    return truth;
  };
}

/** Whether a place is in one of the entries: their parts are judged as `all`, the list as `any`. */
export function placeTest(entries: readonly PlaceEntry[], lists: ReadonlyMap<string, PlaceTest>): PlaceTest {
  // Whole countries, the most of what rules ask for, are looked up together.
  const countries = new Set<string>();
  const tests: PlaceTest[] = [];
  for (const entry of entries)
    if ("country" in entry && entry.region === undefined && entry.city === undefined)
      countries.add(entry.country.toUpperCase());
    else tests.push(entryTest(entry, lists));
  return (place) => {
    let truth: Truth = NO;
    if (countries.size > 0) {
      if (place.country === undefined) truth = UNKNOWN;
      else if (countries.has(place.country) || countries.has(place.country.toUpperCase())) return YES;
    }
    for (const test of tests) {
      const one = test(place);
      if (one === YES) return YES;
      if (one > truth) truth = one;
    }
    return truth;
  };
}

/** The tests of place lists by their id. A place list holds no lists. */
export const listTests = (lists: readonly PlaceList[]): Map<string, PlaceTest> =>
  new Map(lists.map((list) => [list.id, placeTest(list.places, new Map())]));
