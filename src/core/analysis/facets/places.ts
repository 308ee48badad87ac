/** Places on the map and by name. */
import type { Condition } from "../../formats/rule";
import type { PlaceEntry, Ruleset } from "../../formats/ruleset";
import type { Place } from "../../formats/visit";
import { continentOf, countryCodes } from "../../visit/countries";
import type { Domain, Facet, Setting } from "../facet";

function entriesOf(conditions: readonly Condition[], ruleset: Ruleset): PlaceEntry[] {
  const out: PlaceEntry[] = [];
  const add = (entry: PlaceEntry) => {
    if ("list" in entry) ruleset.placeLists.find((list) => list.id === entry.list)?.places.forEach(add);
    else out.push(entry);
  };
  for (const condition of conditions)
    if (Array.isArray(condition.value)) (condition.value as PlaceEntry[]).forEach(add);
  return out;
}

export function places(conditions: readonly Condition[], { ruleset }: Domain): Facet {
  const entries = entriesOf(conditions, ruleset);
  const out: (Place | undefined)[] = [undefined];
  const countries = new Set<string>();
  const circles: Extract<PlaceEntry, { km: number }>[] = [];
  for (const entry of entries) {
    if ("country" in entry) {
      const country = entry.country.toUpperCase();
      countries.add(country);
      const place: Place = { country };
      if (entry.region !== undefined) {
        place.region = entry.region.toUpperCase();
        out.push({ country, region: `${country}-ZZZ`, city: "Elsewhere" });
      }
      if (entry.city !== undefined) {
        place.city = entry.city;
        out.push({
          country,
          ...(entry.region === undefined ? {} : { region: place.region as string }),
          city: "Elsewhere",
        });
      }
      out.push(place, { country, region: `${country}-ZZZ`, city: "Elsewhere" });
    } else if ("km" in entry) {
      circles.push(entry);
    } else if ("continent" in entry)
      for (const code of countryCodes) if (continentOf(code) === entry.continent.toUpperCase()) countries.add(code);
  }
  for (const country of countries) out.push({ country });
  const foreign = countryCodes.find((code) => !countries.has(code));
  if (foreign) out.push({ country: foreign });
  // Cities and regions named for several places at once, and circles, could meet in ways that are not tried.
  const regional = entries.filter(
    (entry) => "country" in entry && (entry.region !== undefined || entry.city !== undefined),
  ).length;
  // Where a visitor is on the map goes with any country, region and city: in the middle of each circle, far from it, near its edge.
  const points = circles.flatMap(({ lat, lon, km }) => {
    const north = (degrees: number) => Math.max(-90, Math.min(90, lat + degrees));
    const far = lat > 0 ? -60 : 60;
    return [
      { lat, lon },
      { lat: north(far), lon },
      { lat: north(far), lon: lon > 0 ? lon - 90 : lon + 90 },
      { lat: north((km / 111) * 0.98), lon },
      { lat: north((km / 111) * 1.02), lon },
    ];
  });
  if (circles.length > 0 && !foreign) out.push({ country: "PT" });
  const bases = out.filter((place) => place !== undefined).slice(0, 400);
  for (const point of points.slice(0, 60)) for (const base of bases) out.push({ ...base, ...point });
  return {
    name: "place",
    settings: out.map((place): Setting => (made) => {
      if (place) made.visit.place = { ...place };
      else delete made.visit.place;
    }),
    exact: circles.length === 0 && regional <= 1,
  };
}
