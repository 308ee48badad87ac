import { locale, t } from "@/core/messages/t";
import * as z from "zod";
import { earlierContents } from "@/core/draft/earlier";
import { id } from "@/core/formats/basics";
import { contentSchema } from "@/core/formats/ruleset";
import { changesOf } from "@/data/edits";
import { of } from "@/data/pool";
import { action, Refusal } from "../act";
import { changeDraft, redoChange, toldTo, undoChange } from "../draft";

const path = z
  .array(
    z
      .string()
      .max(200)
      .refine((part) => part !== "__proto__"),
  )
  .min(1)
  .max(40)
  .readonly();
const index = z.number().int().min(0).max(100_000);
const item = z.looseObject({ id });
const editSchema = z.union([
  z.strictObject({ do: z.literal("set"), at: path, before: z.unknown().optional(), after: z.unknown().optional() }),
  z.strictObject({ do: z.literal("insert"), list: path, index, item }),
  z.strictObject({ do: z.literal("remove"), list: path, index, item }),
  z.strictObject({ do: z.literal("move"), list: path, id: z.string(), from: index, to: index }),
]);

/** The longest text that an edit may carry, in characters. */
const longestText = 100_000;
const tooLong = (value: unknown): boolean =>
  typeof value === "string"
    ? value.length > longestText
    : typeof value === "object" && value !== null && Object.values(value).some(tooLong);

/** The version of the draft that whoever asks has: then they are told what changed, and not the whole. */
const known = z.number().int().nullish();

/** Changes of the draft. What an edit asks of its maker is judged edit by edit (core/people). */
export const draftActions = {
  change: action(
    "signed in",
    [z.string().min(1).max(300), z.array(editSchema).min(1).max(1000), z.uuid(), known],
    async (who, says, edits, name, version) => {
      if (edits.some(tooLong))
        throw new Refusal(
          422,
          t("A text is longer than {longestText} characters.", { longestText: longestText.toLocaleString(locale()) }),
        );
      return toldTo(version, await changeDraft(who, says, edits, name));
    },
  ),
  undo: action("signed in", [known], async (who, version) => toldTo(version, await undoChange(who))),
  redo: action("signed in", [known], async (who, version) => toldTo(version, await redoChange(who))),
  /** The texts that stood at a place of the draft before, newest first. */
  earlierTexts: action("signed in", [path, contentSchema.nullable()], async (who, at, now) => {
    const owner = at[at.indexOf("variants") + 1] ?? at[1];
    if (!owner) return [];
    return earlierContents(now, at, await changesOf(who.site, owner, of(who.site))).slice(0, 30);
  }),
};
