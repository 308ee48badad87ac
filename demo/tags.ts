/** Prints the tags that stand in the pages of the demo's other websites, as their makers would paste them there: by site, as JSON. */
import { pageTag } from "@/script/tag";
import { partnerKey, stoneAndMossKey } from "./keys";

const port = Number(process.env.PORT ?? 4300);
const server = `http://localhost:${port + 1}`;
// Tests run on machines that are busy: what comes late there is not the page's fault.
const wait = Number(process.env.MIRADA_DEMO_WAIT) || undefined;
console.log(
  JSON.stringify({
    "stone-and-moss": {
      origin: server,
      framedBy: `http://localhost:${port}`,
      html: pageTag(server, stoneAndMossKey, wait),
      // Its first page has a place for the shop's own words, which the shop fills.
      pages: { "/": pageTag(server, partnerKey, wait) },
    },
  }),
);
