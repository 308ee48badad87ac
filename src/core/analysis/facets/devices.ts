/** Devices: what a browser says of itself. */
import type { Condition } from "../../formats/rule";
import { agents, platforms } from "../agents";
import type { Facet, Setting } from "../facet";
import { isEqual, isOfText } from "../texts";
import { dropKey } from "./drop-key";
import { numberCandidates } from "./numbers";

export function devices(conditions: readonly Condition[]): Facet {
  const versions = numberCandidates(
    conditions.filter((condition) => condition.signal === "device.browserVersion"),
    true,
  );
  const settings: Setting[] = [
    (made) => {
      delete made.visit.userAgent;
      dropKey(made.visit.hints, "platform", "mobile");
    },
  ];
  const natural: [string, string | undefined][] = agents.map((agent) => [agent, undefined]);
  // A hint can name any system beside any browser: odd, but possible, and so tried after what is natural.
  const systems = conditions.some((condition) => condition.signal === "device.os");
  const odd: [string, string][] = systems
    ? platforms.flatMap((platform) => agents.map((agent): [string, string] => [agent, platform]))
    : [];
  // A hint can also call what would be a desktop a phone.
  const kinds = conditions.some((condition) => condition.signal === "device.kind");
  for (const mobile of kinds ? [false, true] : [false])
    for (const [agent, platform] of [...natural, ...odd])
      for (const version of agent.includes("{v}") ? versions : [0])
        settings.push((made) => {
          made.visit.userAgent = agent.replaceAll("{v}", String(version));
          dropKey(made.visit.hints, "platform", "mobile");
          if (platform) made.visit.hints = { ...made.visit.hints, platform };
          if (mobile) made.visit.hints = { ...made.visit.hints, mobile: true };
        });
  const other = conditions.some((condition) => [condition.value].flat().includes("other"));
  return {
    name: "device",
    settings,
    exact: !other && conditions.every((condition) => isEqual(condition) || !isOfText(condition)),
  };
}
