/** Languages that a browser asks for. */
import type { Condition } from "../../formats/rule";
import type { Facet, Setting } from "../facet";

export function languages(conditions: readonly Condition[]): Facet {
  const tags = new Set<string>();
  for (const condition of conditions)
    if (Array.isArray(condition.value))
      for (const tag of condition.value as string[]) tags.add(tag === "*" ? "eo" : tag.toLowerCase());
  const list = [...tags];
  const base = [
    ...new Set([
      ...list,
      ...list.map((tag) => tag.split("-")[0] as string),
      ...list.map((tag) => `${tag.split("-")[0]}-zz`),
      "eo",
    ]),
  ];
  const headers: (string | undefined)[] = [undefined, ...base];
  for (const a of base) for (const b of base) if (a !== b) headers.push(`${a},${b};q=0.5`);
  if (list.length > 0) headers.push(["eo", ...list].map((tag, i) => `${tag};q=${(1 - i * 0.01).toFixed(2)}`).join(","));
  return {
    name: "language",
    settings: headers.map((header): Setting => (made) => {
      if (header === undefined) delete made.visit.acceptLanguage;
      else made.visit.acceptLanguage = header;
    }),
    exact: list.length <= 2 && !list.some((tag) => tag.includes("-")),
  };
}
