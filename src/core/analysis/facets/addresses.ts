/** IP addresses. */
import type { Condition } from "../../formats/rule";
import type { Facet, Setting } from "../facet";

export function addresses(conditions: readonly Condition[]): Facet {
  const out: (string | undefined)[] = [undefined, "198.18.0.1", "2001:db8:ffff::1"];
  for (const condition of conditions)
    if (Array.isArray(condition.value))
      for (const block of condition.value as string[]) out.push(String(block).split("/")[0]);
  return {
    name: "ip",
    settings: out.map((ip): Setting => (made) => {
      if (ip === undefined) delete made.visit.ip;
      else made.visit.ip = ip;
    }),
    exact: conditions.length <= 1,
  };
}
