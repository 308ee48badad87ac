/** Everything that opens above a screen – dialogs, menus, choosers, panels – with how a marketer opens it. */
import { expect, type Page } from "@playwright/test";
import { at, row } from "./support";

interface Opened {
  what: string;
  open: (page: Page) => Promise<unknown>;
}

const press = (name: string | RegExp, options: { exact?: boolean; last?: boolean } = {}) => {
  const { exact = typeof name === "string", last = false } = options;
  return (page: Page) => {
    const found = page.locator("main, aside, .topline, .sentence").getByRole("button", { name, exact });
    return (last ? found.last() : found.first()).click();
  };
};
const part = (name: string) => (page: Page) => page.locator(`.sentence [data-part=${name}]`).click();
/** Opens a menu, and something that it leads to. */
const by = (menu: string | RegExp, item: string | RegExp) => async (page: Page) => {
  await press(menu)(page);
  await page.getByRole("menuitem", { name: item }).click();
};

/** By the screen that it opens above, and what is done there first. */
export const everythingOpened: {
  address: string;
  where: string;
  before?: (page: Page) => Promise<unknown>;
  opened: Opened[];
}[] = [
  {
    address: at("/pages"),
    where: "the main screen",
    opened: [
      { what: "the way to live", open: press("Publish") },
      { what: "go anywhere", open: (page) => page.keyboard.press("Control+k") },
      { what: "help", open: press("Help") },
      { what: "the guides", open: by("Help", "Guides and words") },
      { what: "keyboard shortcuts", open: (page) => page.keyboard.press("?") },
      { what: "the lenses", open: press(/^Lens:/) },
      { what: "a menu of screens", open: press("Content") },
      { what: "sites", open: press(/^Site: /) },
      { what: "oneself", open: press("You are Owner") },
      ...["place", "language", "device", "arrival", "time", "cart", "told"].map((name) => ({
        what: `${name} in the sentence`,
        open: part(name),
      })),
      { what: "the heat map", open: press("Heat map") },
      { what: "a new variant", open: press("Add a variant") },
    ],
  },
  {
    address: at("/pages"),
    where: "a variant",
    before: async (page) => {
      await row(page, "Shade ferns").getByRole("button", { name: "Shade ferns", exact: true }).click();
      await expect(page.getByRole("button", { name: "Done" })).toBeVisible();
    },
    opened: [
      { what: "to save a check", open: press("Save as check") },
      { what: "texts", open: press("Texts …") },
      { what: "texts compared", open: by("Texts …", /^Compare/) },
      { what: "earlier texts", open: by("Texts …", /^Earlier/) },
      { what: "a value of the visit", open: press(/^Insert a value into/) },
      { what: "more of a condition", open: press(/^More about /) },
      { what: "an audience of a condition", open: by(/^More about /, /^Save as an audience/) },
      { what: "something else for a rule", open: press("Add something else") },
      { what: "a pause", open: press("Pause on the live site") },
    ],
  },
  { address: at("/lenses"), where: "lenses", opened: [{ what: "a link that is shared", open: press("Share lens") }] },
  { address: at("/links"), where: "links", opened: [{ what: "a QR code", open: press("QR code") }] },
  {
    address: at("/results"),
    where: "results",
    opened: [
      { what: "results that are shared", open: press("Share …") },
      { what: "results that are deleted", open: press("Delete …") },
      {
        what: "a calendar",
        open: (page) =>
          page
            .getByRole("button", { name: /^Choose date/ })
            .first()
            .click(),
      },
    ],
  },
  { address: at("/slots"), where: "slots", opened: [{ what: "columns", open: press("Columns") }] },
  {
    address: "/sites",
    where: "sites",
    opened: [{ what: "a new site", open: press("New site") }],
  },
];
