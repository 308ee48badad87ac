"use client";
import { useState } from "react";
import Autocomplete from "@mui/material/Autocomplete";
import TextField from "@mui/material/TextField";
import type { PlaceEntry } from "@/core/formats/ruleset";
import { readPlaceEntry } from "@/core/rules/place-text";
import { joinParts } from "@/core/rules/phrases";
import { placesPhrase } from "@/core/rules/sentence";
import { fold } from "@/core/text/fold";
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
  const [unread, setUnread] = useState<string>();
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
      onChange={(_, next) => {
        setUnread(undefined);
        const read = next.map((item) =>
          typeof item === "string"
            ? (readPlaceEntry(item) ?? options.find((one) => fold(name(one)) === fold(item.trim())) ?? item)
            : item,
        );
        const wrong = read.find((item) => typeof item === "string");
        if (wrong !== undefined) setUnread(wrong);
        onChange(read.filter((item) => typeof item !== "string"));
      }}
      renderInput={(input) => (
        <TextField
          {...input}
          placeholder={entries.length === 0 ? "Country, city, continent, PT-11, or 38.72 -9.14 50 km" : undefined}
          error={problem !== undefined || unread !== undefined}
          helperText={unread === undefined ? problem : `“${unread}” is no place that is known here`}
          slotProps={{ ...input.slotProps, htmlInput: { ...input.slotProps?.htmlInput, "aria-label": label } }}
        />
      )}
    />
  );
}
