"use client";
import Autocomplete from "@mui/material/Autocomplete";
import TextField from "@mui/material/TextField";
import type { PlaceEntry } from "@/core/formats/ruleset";
import { readPlaceEntry } from "@/core/rules/place-text";
import { joinParts } from "@/core/rules/phrases";
import { placesPhrase } from "@/core/rules/sentence";
import { continents, countryCodes } from "@/core/visit/countries";
import { useDesk } from "./desk/desk";
import { cities } from "./places";

interface Props {
  entries: readonly PlaceEntry[];
  /** Whether place lists may be named. */
  lists?: boolean;
  problem?: string | undefined;
  label?: string;
  onChange: (entries: PlaceEntry[]) => void;
}

const group = (entry: PlaceEntry): string =>
  "list" in entry
    ? "Place lists"
    : "continent" in entry
      ? "Continents"
      : "km" in entry
        ? "Circles"
        : "city" in entry
          ? "Cities"
          : "region" in entry
            ? "Regions"
            : "Countries";

/** Countries, regions, cities, continents, circles and place lists, chosen by search or typed: PT-11, or 38.72 -9.14 50 km. */
export function PlacesField({ entries, lists = false, problem, label = "Places", onChange }: Props) {
  const { ruleset } = useDesk();
  const options: PlaceEntry[] = [
    ...(lists ? ruleset.placeLists.map((list) => ({ list: list.id as string })) : []),
    ...continents.map((continent) => ({ continent })),
    ...countryCodes.map((country) => ({ country })),
    ...cities.flatMap(({ city, country }) => (city && country ? [{ country, city }] : [])),
  ];
  const name = (entry: PlaceEntry | string) =>
    typeof entry === "string" ? entry : joinParts(placesPhrase([entry], ruleset));
  return (
    <Autocomplete<PlaceEntry, true, false, true>
      multiple
      freeSolo
      openOnFocus
      filterSelectedOptions
      clearOnBlur
      options={options}
      groupBy={group}
      value={entries as PlaceEntry[]}
      getOptionLabel={name}
      isOptionEqualToValue={(a, b) => name(a) === name(b)}
      onChange={(_, next) =>
        onChange(
          next.flatMap((item) => {
            if (typeof item !== "string") return [item];
            const read = readPlaceEntry(item);
            return read ? [read] : [];
          }),
        )
      }
      renderInput={(input) => (
        <TextField
          {...input}
          placeholder={entries.length === 0 ? "Country, city, continent, PT-11, or 38.72 -9.14 50 km" : undefined}
          error={problem !== undefined}
          helperText={problem}
          slotProps={{ ...input.slotProps, htmlInput: { ...input.slotProps?.htmlInput, "aria-label": label } }}
        />
      )}
    />
  );
}
