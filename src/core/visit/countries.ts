/** ISO 3166-1 alpha-2 codes by continent (the two-letter continent codes common in open place data). */
import { displayName } from "../messages/names";
import { said, text } from "../messages/t";
const byContinent = {
  AF: "AO BF BI BJ BW CD CF CG CI CM CV DJ DZ EG EH ER ET GA GH GM GN GQ GW KE KM LR LS LY MA MG ML MR MU MW MZ NA NE NG RE RW SC SD SH SL SN SO SS ST SZ TD TG TN TZ UG YT ZA ZM ZW",
  AN: "AQ BV GS HM TF",
  AS: "AE AF AM AZ BD BH BN BT CC CN CX GE HK ID IL IN IO IQ IR JO JP KG KH KP KR KW KZ LA LB LK MM MN MO MV MY NP OM PH PK PS QA SA SG SY TH TJ TM TR TW UZ VN YE",
  EU: "AD AL AT AX BA BE BG BY CH CY CZ DE DK EE ES FI FO FR GB GG GI GR HR HU IE IM IS IT JE LI LT LU LV MC MD ME MK MT NL NO PL PT RO RS RU SE SI SJ SK SM UA VA XK",
  NA: "AG AI AW BB BL BM BQ BS BZ CA CR CU CW DM DO GD GL GP GT HN HT JM KN KY LC MF MQ MS MX NI PA PM PR SV SX TC TT US VC VG VI",
  OC: "AS AU CK FJ FM GU KI MH MP NC NF NR NU NZ PF PG PN PW SB TK TL TO TV UM VU WF WS",
  SA: "AR BO BR CL CO EC FK GF GY PE PY SR UY VE",
} as const;

export type Continent = keyof typeof byContinent;
export const continents = Object.keys(byContinent) as Continent[];
export const continentNames: Record<Continent, string> = said({
  AF: text("Africa"),
  AN: text("Antarctica"),
  AS: text("Asia"),
  EU: text("Europe"),
  NA: text("North America"),
  OC: text("Oceania"),
  SA: text("South America"),
});

const table = new Map<string, Continent>();
for (const continent of continents) for (const code of byContinent[continent].split(" ")) table.set(code, continent);

/** Every country code, sorted. */
export const countryCodes: readonly string[] = [...table.keys()].sort();

/** The continent of a country (upper case code), or undefined if there is no such country. */
export const continentOf = (country: string): Continent | undefined => table.get(country);

/** The name of a country, or its code if it has none. */
export const countryName = (code: string): string => {
  const upper = code.toUpperCase();
  return table.has(upper) ? (displayName("region", upper) ?? upper) : upper;
};
