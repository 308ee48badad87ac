"use client";
import { t } from "@/core/messages/t";
import dynamic from "next/dynamic";
import type { PlaceEntry } from "@/core/formats/ruleset";
import { usesOf } from "@/core/ruleset/uses";
import { joinParts } from "@/core/rules/phrases";
import { placesPhrase } from "@/core/rules/sentence";
import { useDesk } from "../parts/desk/desk";
import { useRuleTrace } from "../parts/desk/use-rule-trace";
import { ListScreen } from "../parts/lists/list-screen";
import { NameRow } from "../parts/lists/name-row";
import { UsedBy } from "../parts/lists/used-by";
import { useList } from "../parts/lists/use-list";
import { PlacesField } from "../parts/places-field";
import { VerdictMark } from "../parts/verdict";

const PlaceMap = dynamic(() => import("./map").then((module) => module.PlaceMap), {
  ssr: false,
  loading: () => <div className="map" aria-busy />,
});

/** Named lists of places: edited in a list and on a map. */
export function PlacesScreen() {
  const { ruleset, look } = useDesk();
  const list = useList("placeLists", t("Place list"), (placeList) => ({ placeList }));
  const trace = useRuleTrace();
  const here = look.visit.place ?? look.placed;
  return (
    <ListScreen
      title={t("Place lists")}
      teaches={t(
        "A place list is a set of countries, regions, cities, continents and circles with a name, such as “where plants can be posted”. Rules then ask whether a visitor is in it.",
      )}
      adding={t("New place list")}
      list={list}
      row={(item) => ({
        says:
          item.places.length === 0
            ? t("no places yet")
            : joinParts(placesPhrase(item.places.slice(0, 8), ruleset)).replace(/ or ([^,]+)$/, ", $1") +
              (item.places.length > 8 ? t(" and {places} more", { places: item.places.length - 8 }) : ""),
        verdict: (
          <VerdictMark
            verdict={
              item.places.length === 0
                ? "false"
                : (trace({ signal: "place", op: "isIn", value: [{ list: item.id }] })?.verdict ?? "unknown")
            }
          />
        ),
      })}
      fresh={() => ({ name: t("New place list"), places: [] })}
    >
      {(item) => {
        const set = (places: PlaceEntry[]) =>
          list.set(item, "places", places, t("Places of {name}", { name: item.name }));
        return (
          <div className="form wide">
            <NameRow
              name={item.name}
              onName={(name) => list.set(item, "name", name, `Place list ${item.name} renamed`)}
            />
            <PlacesField entries={item.places} onChange={set} label={t("Places in the list")} />
            <PlaceMap places={item.places} here={here} onChange={set} />
            <UsedBy uses={usesOf({ placeList: item.id }, ruleset)} />
          </div>
        );
      }}
    </ListScreen>
  );
}
