"use client";
import { t } from "@/core/messages/t";
import { useMemo } from "react";
import type { PlaceEntry } from "@/core/formats/ruleset";
import { readPlaceEntry } from "@/core/rules/place-text";
import { joinParts } from "@/core/rules/phrases";
import { placesPhrase } from "@/core/rules/sentence";
import { unaccented } from "@/core/text/fold";
import { continents, countryCodes } from "@/core/visit/countries";
import { ChipsField } from "./chips-field";
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
    ? t("Place lists")
    : "continent" in entry
      ? t("Continents")
      : "km" in entry
        ? t("Circles")
        : "city" in entry
          ? t("Cities")
          : "region" in entry
            ? t("Regions")
            : t("Countries");

/** Countries, regions, cities, continents, circles and place lists, chosen by search or typed: PT-11, or 38.72 -9.14 50 km. */
export function PlacesField({ entries, lists = false, problem, label = t("Places"), onChange }: Props) {
  const { ruleset } = useDesk();
  const { placeLists } = ruleset;
  const options = useMemo<PlaceEntry[]>(
    () => [
      ...(lists ? placeLists.map((list) => ({ list: list.id as string })) : []),
      ...continents.map((continent) => ({ continent })),
      ...countryCodes.map((country) => ({ country })),
      ...cities.flatMap(({ city, country }) => (city && country ? [{ country, city }] : [])),
    ],
    [lists, placeLists],
  );
  const nameOf = (entry: PlaceEntry) => joinParts(placesPhrase([entry], ruleset));
  return (
    <ChipsField
      label={label}
      placeholder={t("Country, city, continent, PT-11, or 38.72 -9.14 50 km")}
      options={options}
      groupBy={group}
      value={entries}
      nameOf={nameOf}
      read={readPlaceEntry}
      refusal={(text) =>
        options.some((entry) => unaccented(nameOf(entry)).startsWith(unaccented(text)))
          ? t("“{text}” may be several places: choose one", { text })
          : t("“{text}” is no place that is known here", { text })
      }
      problem={problem}
      onChange={onChange}
    />
  );
}
