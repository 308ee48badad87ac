"use client";
import { t } from "@/core/messages/t";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import ToggleButton from "@mui/material/ToggleButton";
import { geoCircle } from "d3-geo";
import { useMemo, useRef, useState } from "react";
import type { PlaceEntry } from "@/core/formats/ruleset";
import type { Place } from "@/core/formats/visit";
import { joinParts } from "@/core/rules/phrases";
import { placesPhrase } from "@/core/rules/sentence";
import { continentOf, countryName } from "@/core/visit/countries";
import { cities } from "../parts/places";
import { countryShapes, mapHeight, mapPath, mapWidth, projection } from "../parts/world";

interface Props {
  places: readonly PlaceEntry[];
  /** Where the lens is. */
  here: Place | undefined;
  onChange: (places: PlaceEntry[]) => void;
}

/** Kilometres to degrees of arc on a sphere of 6,371 km. */
const degrees = (km: number): number => (km / 6371) * (180 / Math.PI);

/** The list on a map: a click takes a country in or out; circles are placed with a click. */
export function PlaceMap({ places, here, onChange }: Props) {
  const [view, setView] = useState({ k: 1, x: 0, y: 0 });
  const [circling, setCircling] = useState(false);
  const [km, setKm] = useState("50");
  const svg = useRef<SVGSVGElement>(null);
  const drag = useRef<{ x: number; y: number; moved: boolean } | undefined>(undefined);
  const chosen = useMemo(() => {
    const out = new Map<string, "whole" | "part">();
    for (const entry of places) {
      if ("country" in entry) {
        const part = entry.region !== undefined || entry.city !== undefined;
        if (!part) out.set(entry.country.toUpperCase(), "whole");
        else if (!out.has(entry.country.toUpperCase())) out.set(entry.country.toUpperCase(), "part");
      }
    }
    for (const entry of places)
      if ("continent" in entry)
        for (const { code } of countryShapes())
          if (continentOf(code) === entry.continent.toUpperCase()) out.set(code, "whole");
    return out;
  }, [places]);
  const radius = Number(km);

  /** A point of the screen in the map's own units. */
  const pointAt = (event: React.PointerEvent | React.WheelEvent | React.MouseEvent): [number, number] => {
    const box = svg.current?.getBoundingClientRect();
    if (!box) return [0, 0];
    return [((event.clientX - box.left) / box.width) * mapWidth, ((event.clientY - box.top) / box.height) * mapHeight];
  };
  const zoom = (by: number, [cx, cy]: [number, number] = [mapWidth / 2, mapHeight / 2]) =>
    setView(({ k, x, y }) => {
      const next = Math.min(12, Math.max(1, k * by));
      const ratio = next / k;
      return clip({ k: next, x: cx - (cx - x) * ratio, y: cy - (cy - y) * ratio });
    });
  const toggle = (code: string) => {
    const plain = (entry: PlaceEntry) =>
      "country" in entry && !entry.region && !entry.city && entry.country.toUpperCase() === code;
    onChange(places.some(plain) ? places.filter((entry) => !plain(entry)) : [...places, { country: code }]);
  };
  const click = (event: React.MouseEvent, code?: string) => {
    if (drag.current?.moved) return;
    if (!circling) {
      if (code) toggle(code);
      return;
    }
    const [px, py] = pointAt(event);
    const point = projection.invert?.([(px - view.x) / view.k, (py - view.y) / view.k]);
    if (!point || !(radius > 0)) return;
    const round = (value: number) => Math.round(value * 100) / 100;
    onChange([...places, { lat: round(point[1]), lon: round(point[0]), km: radius }]);
  };
  const others = places.filter(
    (entry) => !("country" in entry) || entry.region !== undefined || entry.city !== undefined,
  );
  const dots = places.flatMap((entry) => {
    if (!("city" in entry) || entry.city === undefined) return [];
    const found = cities.find((city) => city.city === entry.city && city.country === entry.country);
    return found?.lat !== undefined && found.lon !== undefined
      ? [{ name: entry.city, at: projection([found.lon, found.lat]) }]
      : [];
  });
  const lens = here?.lat !== undefined && here.lon !== undefined ? projection([here.lon, here.lat]) : null;

  return (
    <div className="stack">
      <div className="row">
        <ToggleButton value="circle" selected={circling} onChange={() => setCircling(!circling)} size="small">
          {t("Place circles")}
        </ToggleButton>
        {circling && (
          <TextField
            label={t("Radius, km")}
            value={km}
            error={!(radius > 0)}
            onChange={(event) => setKm(event.target.value)}
            sx={{ width: 110 }}
          />
        )}
        <span className="quiet" style={{ flex: 1 }}>
          {circling ? t("Click where the middle of a circle is to be.") : t("Click a country to take it in or out.")}
        </span>
        <Button onClick={() => zoom(1.6)} aria-label={t("Closer")}>
          +
        </Button>
        <Button onClick={() => zoom(1 / 1.6)} aria-label={t("Further away")}>
          −
        </Button>
        <Button onClick={() => setView({ k: 1, x: 0, y: 0 })}>{t("Whole world")}</Button>
        <Button
          onClick={() =>
            setView({ k: 5, x: -mapWidth * 5 * 0.51 + mapWidth / 2, y: -mapHeight * 5 * 0.24 + mapHeight / 2 })
          }
        >
          {t("Europe")}
        </Button>
      </div>
      <svg
        ref={svg}
        className="map"
        viewBox={`0 0 ${mapWidth} ${mapHeight}`}
        role="img"
        aria-label={t("Map of the places in the list")}
        onWheel={(event) => zoom(event.deltaY < 0 ? 1.25 : 0.8, pointAt(event))}
        onPointerDown={(event) => (drag.current = { x: event.clientX, y: event.clientY, moved: false })}
        onPointerMove={(event) => {
          const start = drag.current;
          if (!start || event.buttons !== 1) return;
          const box = svg.current?.getBoundingClientRect();
          const [dx, dy] = [event.clientX - start.x, event.clientY - start.y];
          if (!box || (!start.moved && Math.hypot(dx, dy) < 4)) return;
          drag.current = { x: event.clientX, y: event.clientY, moved: true };
          setView(({ k, x, y }) =>
            clip({ k, x: x + (dx / box.width) * mapWidth, y: y + (dy / box.height) * mapHeight }),
          );
        }}
        onClick={(event) => click(event)}
      >
        <g transform={`translate(${view.x} ${view.y}) scale(${view.k})`}>
          {countryShapes().map(({ code, d }) => (
            <path
              key={code}
              d={d}
              className={chosen.get(code) ?? "land"}
              data-country={code}
              onClick={(event) => {
                event.stopPropagation();
                click(event, code);
              }}
            >
              <title>{`${countryName(code)}${chosen.has(code) ? t(", in the list") : ""}`}</title>
            </path>
          ))}
          {places.map((entry, index) =>
            "km" in entry ? (
              <path
                key={index}
                className="circle"
                d={mapPath(geoCircle().center([entry.lon, entry.lat]).radius(degrees(entry.km))()) ?? ""}
              >
                <title>{t("{km} km around {lat}, {lon}", { km: entry.km, lat: entry.lat, lon: entry.lon })}</title>
              </path>
            ) : null,
          )}
          {dots.map(
            ({ name, at }) => at && <circle key={name} className="dot" cx={at[0]} cy={at[1]} r={3.5 / view.k} />,
          )}
          {lens && (
            <g className="lensdot">
              <circle cx={lens[0]} cy={lens[1]} r={4.5 / view.k} />
              <title>{t("The lens is here")}</title>
            </g>
          )}
        </g>
      </svg>
      {others.length > 0 && (
        <span className="quiet">
          {t("Besides whole countries:")}{" "}
          {others.map((entry) => joinParts(placesPhrase([entry], { placeLists: [] }))).join("; ")}
        </span>
      )}
    </div>
  );
}

/** Keeps the map within its frame. */
function clip({ k, x, y }: { k: number; x: number; y: number }) {
  return {
    k,
    x: Math.min(0, Math.max(mapWidth - mapWidth * k, x)),
    y: Math.min(0, Math.max(mapHeight - mapHeight * k, y)),
  };
}
