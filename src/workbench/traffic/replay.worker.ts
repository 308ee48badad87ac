/** Replays a share of a log on a thread of its own. The log stays in the browser; of addresses it asks whoever made it for their places. */
import type { Ruleset } from "@/core/formats/ruleset";
import type { Place } from "@/core/formats/visit";
import { Replay } from "@/core/replay/replay";
import type { Lines } from "@/core/replay/shares";
import type { Tally } from "@/core/replay/tally";
import { factsByPath } from "@/core/lens/pages";
import type { SitePage } from "../parts/desk/use-look";
import { parseAddress, type Address } from "@/core/visit/address";

export type ToReplay =
  | { do: "start"; ruleset: Ruleset; against: Ruleset; consent: boolean; pages: readonly SitePage[] }
  | { do: "lines"; lines: Lines }
  | { do: "places"; places: (Place | null)[] }
  | { do: "tally" };
export type FromReplay =
  | { says: "addresses"; addresses: string[] }
  | { says: "taken"; progress: Replay["progress"] }
  | { says: "tally"; tally: Tally };

const post = (message: FromReplay) => postMessage(message);
const nameOf = (address: Address): string => `${address.family} ${address.bits}`;

let replay: Replay | undefined;
const places = new Map<string, Place>();
let waiting: ((found: (Place | null)[]) => void) | undefined;
const decoder = new TextDecoder();

async function take({ bytes, numbers }: Lines): Promise<void> {
  if (!replay) return;
  const text = decoder.decode(bytes);
  const addresses = replay.addresses(text);
  if (addresses.length > 0) {
    const found = new Promise<(Place | null)[]>((resolve) => (waiting = resolve));
    post({ says: "addresses", addresses });
    (await found).forEach((place, index) => {
      const address = parseAddress(addresses[index] as string);
      if (place && address) places.set(nameOf(address), place);
    });
  }
  replay.take(text, numbers);
  post({ says: "taken", progress: replay.progress });
}

addEventListener("message", ({ data }: MessageEvent<ToReplay>) => {
  if (data.do === "start") {
    const { ruleset, against, consent, pages } = data;
    replay = new Replay(ruleset, {
      against,
      consent,
      detail: true,
      pages: factsByPath(pages),
      lookup: (address) => places.get(nameOf(address)),
    });
  } else if (data.do === "lines") void take(data.lines);
  else if (data.do === "places") waiting?.(data.places);
  else if (replay) post({ says: "tally", tally: replay.tally() });
});
