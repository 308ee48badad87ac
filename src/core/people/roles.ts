import { said, t, text } from "../messages/t";
import type { Edit, EditPath } from "../draft/edit";

/** What somebody is to a site. A person may be several. */
export const roles = ["author", "editor", "approver", "developer"] as const;
export type Role = (typeof roles)[number];

/** What may be done: the least that an action asks of a person. Looking, lenses and checks are everybody's. */
export type Ability = "content" | "rules" | "slots" | "release" | "build" | "people";

const abilities: Record<Role, readonly Ability[]> = {
  author: ["content"],
  editor: ["content", "rules", "slots"],
  approver: ["release"],
  developer: ["slots", "build", "people"],
};

/** What each role is for, in words. */
export const roleWords: Record<Role, string> = said({
  author: text("writes what versions say"),
  editor: text("also sets slots, rules, offers and order"),
  approver: text("approves what goes live"),
  developer: text("keeps slots, kinds of blocks, settings, keys and people"),
});

/** Whether one of the roles lets somebody do something. */
export const mayDo = (own: readonly Role[], ability: Ability): boolean =>
  own.some((role) => abilities[role].includes(ability));

/** Whether somebody may do something on a site: an administrator keeps the people of every one. */
export const mayAs = (
  { roles: own, administrator }: { roles: readonly Role[]; administrator: boolean },
  ability: Ability,
): boolean => mayDo(own, ability) || (administrator && ability === "people");

const doers: Record<Ability, string> = said({
  content: text("Content is an author’s or an editor’s"),
  rules: text("Rules, order and offers are an editor’s"),
  slots: text("Slots are an editor’s or a developer’s"),
  release: text("What goes live is an approver’s"),
  build: text("Kinds of blocks and settings are a developer’s"),
  people: text("People and their roles are a developer’s"),
});

/** Why somebody may not do something, in a sentence. */
export const refusal = (own: readonly Role[], ability: Ability): string =>
  t("{doers} to change; you are {own}.", {
    doers: doers[ability],
    own:
      own
        .map((role) => (/^[ae]/.test(role) ? t("an {role}", { role }) : t("a {role}", { role })))
        .join(` ${t("and")} `) || t("nobody here"),
  });

/** Lists of the draft that are content as a whole, or rules as a whole. Whatever is not named is built by a developer. */
const contentLists = ["library", "picks"];
const ruleLists = ["audiences", "placeLists", "markers", "offers", "redirects", "popups", "goals"];

/** What an edit of the draft asks of whoever makes it. */
export function neededFor(edit: Edit): Ability {
  const path: EditPath = edit.do === "set" ? edit.at : [...edit.list, ...(edit.do === "move" ? [edit.id] : [])];
  const [list = "", , part, variant, field] = path;
  if (contentLists.includes(list)) return "content";
  if (ruleLists.includes(list)) return list === "popups" && part === "arms" ? "content" : "rules";
  // Pointing at what a page tells is as pointing at a slot.
  if (list === "collect") return "slots";
  if (list !== "slots") return "build";
  if (part === "fallback") return "content";
  if (part !== "variants") return "slots";
  if (edit.do === "insert" && variant === undefined) return edit.item.rule == null ? "content" : "rules";
  if (edit.do === "remove" && variant === undefined) return edit.item.rule == null ? "content" : "rules";
  return field === "arms" || field === "name" ? "content" : "rules";
}

/** The first ability that some edits ask for and that somebody lacks; undefined: they may all be made. */
export const lacking = (own: readonly Role[], edits: readonly Edit[]): Ability | undefined =>
  edits.map(neededFor).find((ability) => !mayDo(own, ability));
