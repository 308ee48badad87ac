/** Replays a share of a log on a thread of its own. The log stays in the browser; of addresses it asks whoever made it for their places. */
import { Gunzip } from "fflate";
import type { Ruleset } from "@/core/formats/ruleset";
import type { Place } from "@/core/formats/visit";
import { Replay } from "@/core/replay/replay";
import type { Tally } from "@/core/replay/tally";
import { factsByPath } from "@/core/visit/pages";
import type { SitePage } from "../parts/desk/use-look";
import { parseAddress, type Address } from "@/core/visit/address";

export type ToReplay =
  | {
      do: "start";
      ruleset: Ruleset;
      against: Ruleset;
      consent: boolean;
      pages: readonly SitePage[];
      share: { number: number; of: number };
    }
  /** A piece of a file; the last one ends it. */
  | { do: "piece"; bytes: ArrayBuffer; first: boolean; last: boolean }
  | { do: "places"; places: (Place | null)[] }
  | { do: "tally" };
export type FromReplay =
  | { says: "addresses"; addresses: string[] }
  | { says: "taken"; progress: Replay["progress"] }
  | { says: "broken"; problem: string }
  | { says: "tally"; tally: Tally }; // prettier-ignore

const post = (message: FromReplay) => postMessage(message);
const nameOf = (address: Address): string => `${address.family} ${address.bits}`;

let replay: Replay | undefined;
const places = new Map<string, Place>();
let waiting: ((found: (Place | null)[]) => void) | undefined;
let unpack: Gunzip | undefined;
let decoder = new TextDecoder();
let text = "";
/** Bytes unpacked so far, and how many more parts the file has that were packed by themselves. */
let unpacked = 0;
let members = 0;

async function take(bytes: Uint8Array, first: boolean, last: boolean): Promise<void> {
  if (!replay) return;
  text = "";
  if (first) {
    decoder = new TextDecoder();
    const packed = bytes[0] === 0x1f && bytes[1] === 0x8b;
    unpacked = 0;
    members = 0;
    unpack = packed
      ? new Gunzip((part) => {
          unpacked += part.length;
          text += decoder.decode(part, { stream: true });
        })
      : undefined;
    if (unpack) unpack.onmember = () => (members += 1);
  }
  let damage: string | undefined;
  if (unpack) {
    try {
      unpack.push(bytes, last);
      // A file of one member ends with its length (RFC 1952): damage within it need not show before.
      const said = new DataView(bytes.buffer).getUint32(Math.max(0, bytes.byteLength - 4), true);
      if (last && members === 0 && bytes.length >= 4 && said !== unpacked % 2 ** 32)
        damage = "It is damaged: it unpacks to another length than it says. What could be read counts.";
    } catch (error) {
      damage = `It cannot be unpacked any further: ${(error as Error).message}. What was read up to there counts.`;
    }
  } else text += decoder.decode(bytes, { stream: true });
  if (last || damage) text += decoder.decode();
  const addresses = replay.addresses(text);
  if (addresses.length > 0) {
    const found = new Promise<(Place | null)[]>((resolve) => (waiting = resolve));
    post({ says: "addresses", addresses });
    (await found).forEach((place, index) => {
      const address = parseAddress(addresses[index] as string);
      if (place && address) places.set(nameOf(address), place);
    });
  }
  replay.take(text);
  text = "";
  if (last || damage) replay.end();
  if (damage) post({ says: "broken", problem: damage });
  else post({ says: "taken", progress: replay.progress });
}

addEventListener("message", ({ data }: MessageEvent<ToReplay>) => {
  if (data.do === "start") {
    const { ruleset, against, consent, pages, share } = data;
    replay = new Replay(ruleset, { against, consent, share, detail: true, pages: factsByPath(pages), lookup: (address) => places.get(nameOf(address)) });
  } else if (data.do === "piece") void take(new Uint8Array(data.bytes), data.first, data.last);
  else if (data.do === "places") waiting?.(data.places);
  else if (replay) post({ says: "tally", tally: replay.tally() });
}); // prettier-ignore
