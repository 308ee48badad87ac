/** The world's countries as shapes to draw (Natural Earth, 1:50 million). */
import { geoNaturalEarth1, geoPath } from "d3-geo";
import type { FeatureCollection, Geometry } from "geojson";
import { iso31661 } from "iso-3166";
import { feature } from "topojson-client";
import type { GeometryCollection, Topology } from "topojson-specification";
import atlas from "world-atlas/countries-50m.json";

export const mapWidth = 900;
export const mapHeight = 440;
export const projection = geoNaturalEarth1().fitSize([mapWidth, mapHeight], { type: "Sphere" });
export const mapPath = geoPath(projection);
// The shape of a JSON file’s text is told by its package’s documentation alone.
const topology = atlas as unknown as Topology<{ countries: GeometryCollection }>;
const shapes = (feature(topology, topology.objects.countries) as FeatureCollection<Geometry>).features;
const codes = new Map(iso31661.map((item) => [item.numeric, item.alpha2]));
let drawn: { code: string; d: string }[] | undefined;
/** Path data by ISO 3166-1 alpha-2 code; worked out when a map is drawn for the first time. */
export const countryShapes = (): readonly { code: string; d: string }[] =>
  (drawn ??= shapes.flatMap((shape) => {
    const code = codes.get(String(shape.id).padStart(3, "0"));
    return code ? [{ code, d: mapPath(shape) ?? "" }] : [];
  }));
