"use client";
import { countryName } from "@/core/visit/countries";
import { countryShapes, mapHeight, mapWidth } from "./world";

/** Countries shaded by a share from 0 to 1; `says` tells a country's figures. Undefined: there is nothing to say of it. */
export function ShadedMap({
  title,
  shares,
  says,
}: {
  title: string;
  shares: ReadonlyMap<string, number>;
  says: (code: string) => string;
}) {
  const most = Math.max(...shares.values(), 0);
  return (
    <svg className="shadedmap" viewBox={`30 8 ${mapWidth - 60} ${mapHeight - 100}`} role="img" aria-label={title}>
      {countryShapes().map(({ code, d }) => {
        const share = shares.get(code);
        return (
          <path
            key={code}
            d={d}
            style={
              share ? { fill: `color-mix(in oklab, var(--v1) ${20 + (80 * share) / most}%, var(--panel))` } : undefined
            }
          >
            {share !== undefined && <title>{`${countryName(code)}: ${says(code)}`}</title>}
          </path>
        );
      })}
    </svg>
  );
}
