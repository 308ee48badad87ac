import type { z } from "zod";
import type { siteDraftSchema } from "@/core/formats/site-draft";

/** Brackenfold's content library: blocks written once, which variants pick by their labels. */

type Library = Pick<z.input<typeof siteDraftSchema>, "library" | "picks">;

const offer = (
  id: string,
  name: string,
  labels: string[],
  fields: { text: string; price: number; button: string; link: string },
) => ({ id, name, labels, content: { type: "offer", fields: { headline: name, ...fields } } });

const pick = (variant: string, labels: string[], more: object = {}) => ({
  id: `pick-${variant}`,
  variant,
  arm: "a",
  labels,
  ...more,
});
const cheapest = { sort: { field: "price" } };

export const demoLibrary: Library = {
  library: [
    offer("windowsill-trio", "Windowsill trio", ["offer", "Gardeners"], {
      text: "Three small ferns that share a tray.",
      price: 24.5,
      button: "See the trio",
      link: "/ferns",
    }),
    offer("kitchen-box", "Kitchen seed box", ["offer", "Gardeners"], {
      text: "Eight herbs, one sowing calendar.",
      price: 18.5,
      button: "See the box",
      link: "/seed-boxes/box-kitchen",
    }),
    offer("house-plants", "Stone and leaf", ["offer", "Gardeners"], {
      text: "A houseleek and an echeveria in one parcel.",
      price: 13.4,
      button: "See succulents",
      link: "/succulents",
    }),
    offer("tray-of-forty", "Tray of forty", ["offer", "Growers"], {
      text: "Forty young hart’s-tongues, rooted, for growing on.",
      price: 96,
      button: "Ask for a tray",
      link: "/contact",
    }),
    offer("winter-fleece", "Winter fleece by the roll", ["winter", "Growers"], {
      text: "Fifty metres, reusable for five winters.",
      price: 64,
      button: "See tools",
      link: "/tools",
    }),
  ],
  picks: [
    pick("strip-growers", ["offer"], { audience: "growers" }),
    pick("strip-one", ["offer", "Gardeners"], cheapest),
    pick("strip-two", ["offer", "Gardeners"], { ...cheapest, nth: 2 }),
    pick("strip-three", ["offer", "Gardeners"], { ...cheapest, nth: 3 }),
  ],
};
