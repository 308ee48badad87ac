/**
 * Content that needs no declared type: what the page itself has in the slot's place, with changes ("@own"), or the place taken
 * away ("@hidden"). Whoever draws the page applies all changes of a block or none.
 */
import { z } from "zod";
import { pointer, problemsOf, type Problem } from "../formats/problem";
import type { Content } from "../formats/ruleset";
import { selectorProblem } from "../formats/selector";

export const ownType = "@own";
export const hiddenType = "@hidden";
/** Whether content stands for what the page itself has. */
export const isPagesOwn = ({ type }: Pick<Content, "type">): boolean => type === ownType || type === hiddenType;

const selectorOrNothing = z.string().superRefine((text, context) => {
  const problem = text === "" ? undefined : selectorProblem(text);
  if (problem) context.addIssue({ code: "custom", message: problem });
});

const changeSchema = z
  .strictObject({
    /** A selector within the place that finds exactly one element; "": the place itself. */
    part: selectorOrNothing,
    /** The text that was found there when the change was made. */
    was: z.string().optional(),
    /** A message, put in as text. */
    text: z.string().optional(),
    /** A message, the address that a link leads to. */
    link: z.string().optional(),
    image: z.strictObject({ src: z.string(), alt: z.string().optional() }).optional(),
    hidden: z.literal(true).optional(),
  })
  .superRefine((change, context) => {
    const said = changeKinds.filter((kind) => change[kind] !== undefined);
    if (said.length !== 1)
      context.addIssue({ code: "custom", message: "must say exactly one of text, link, image and hidden" });
  });
export const changeKinds = ["text", "link", "image", "hidden"] as const;
/** One change of what the page has. */
export type OwnChange = z.output<typeof changeSchema>;

const ownFieldsSchema = z.strictObject({ changes: z.array(changeSchema).min(1, "must have at least one change") });

/** The changes of a block of type "@own" that has no problems. */
export const changesOf = (content: Content): readonly OwnChange[] => (content.fields.changes ?? []) as OwnChange[];

/** What is wrong with the fields of "@own" or "@hidden". `messageProblem` judges texts and links. */
export function checkPagesOwn(
  content: Content,
  base: readonly PropertyKey[],
  messageProblem: (message: string) => string | undefined,
): Problem[] {
  const at = (path: readonly PropertyKey[], problem: string): Problem => ({
    path: pointer([...base, ...path]),
    problem,
  });
  if (content.type === hiddenType)
    return [
      ...Object.keys(content.fields).map((id) => at(["fields", id], `"${hiddenType}" has no fields`)),
      ...Object.keys(content.tokens).map((name) => at(["tokens", name], `"${hiddenType}" has no tokens`)),
    ];
  const read = ownFieldsSchema.safeParse(content.fields);
  if (!read.success)
    return problemsOf(read.error.issues).map(({ path, problem }) => ({
      path: `${pointer([...base, "fields"])}${path}`,
      problem,
    }));
  return read.data.changes.flatMap((change, index) =>
    (["text", "link"] as const).flatMap((kind) => {
      const wrong = change[kind] === undefined ? undefined : messageProblem(change[kind]);
      return wrong ? [at(["fields", "changes", index, kind], wrong)] : [];
    }),
  );
}
