/**
 * Content that needs no declared type: what the page itself has in the slot's place, with changes ("@own"), or the place taken
 * away ("@hidden"). Whoever draws the page applies all changes of a block or none.
 */
import { said, t, text } from "../messages/t";
import * as z from "zod";
import { pointer, problemsOf, type Problem, type ProblemCode } from "../formats/problem";
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
      context.addIssue({
        code: "custom",
        params: { code: "missing" },
        message: t("must say exactly one of text, link, image and hidden"),
      });
  });
export const changeKinds = ["text", "link", "image", "hidden"] as const;
/** One change of what the page has. */
export type OwnChange = z.output<typeof changeSchema>;

const ownFieldsSchema = z.strictObject({
  changes: z.array(changeSchema).min(1, { error: () => t("must have at least one change") }),
});

/** The changes of a block of type "@own" that has no problems. */
export const changesOf = (content: Content): readonly OwnChange[] => (content.fields.changes ?? []) as OwnChange[];

/** What a change is of: one part may have several, each of another kind. */
export const kindOfChange = (change: OwnChange): (typeof changeKinds)[number] =>
  changeKinds.find((kind) => change[kind] !== undefined) ?? "text";

/** A version of what stands there, in which nothing is changed yet. */
export const unchanged = (): Content => ({ type: ownType, fields: { changes: [] }, tokens: {} });
/** The place taken away. */
export const takenAway = (): Content => ({ type: hiddenType, fields: {}, tokens: {} });

/** The changes with one put in the place of its like; `change` undefined: without it. */
export function withChange(
  changes: readonly OwnChange[],
  part: string,
  kind: (typeof changeKinds)[number],
  change: OwnChange | undefined,
): OwnChange[] {
  const index = changes.findIndex((other) => other.part === part && kindOfChange(other) === kind);
  if (!change) return changes.filter((_, at) => at !== index);
  return index < 0 ? [...changes, change] : changes.map((other, at) => (at === index ? change : other));
}

/** What a change is of, in words: by the text that stood there, else by its selector. */
const partName = ({ was, part }: OwnChange): string => (was ? `“${was}”` : part || t("the place itself"));

/** A row for each change, in words: what it is of, and what it comes to. */
export const changeRows = (content: Content): { key: string; name: string; value: string }[] =>
  content.type === ownType
    ? changesOf(content).map((change) => {
        const kind = kindOfChange(change);
        const of = partName(change);
        return {
          key: `${kind} ${change.part}`,
          name: {
            text: of,
            link: t("Link of {of}", { of }),
            image: t("Picture {part}", { part: change.part }),
            hidden: of,
          }[kind],
          value: change.text ?? change.link ?? change.image?.src ?? "hidden",
        };
      })
    : [];

/** A part of what stands there, as far as changes of it tell: what its text was, and that it has a link or a picture. */
export interface ChangedPart {
  part: string;
  name: string;
  text?: string;
  link?: string;
  image?: { src: string; alt?: string };
}

/** The parts that changes are of, in their order: for where no page is at hand that has them. */
export function changedParts(changes: readonly OwnChange[]): ChangedPart[] {
  const parts = new Map<string, ChangedPart>();
  for (const change of changes) {
    const { part, was, text, link, image } = change;
    const known = parts.get(part);
    parts.set(part, {
      ...known,
      part,
      name: known && !was ? known.name : partName(change),
      ...(text === undefined ? {} : { text: was ?? "" }),
      ...(link === undefined ? {} : { link: "" }),
      ...(image ? { image: { src: "" } } : {}),
    });
  }
  return [...parts.values()];
}

const ownNames: Record<string, string> = said({
  [ownType]: text("What stands there, changed"),
  [hiddenType]: text("Nothing"),
});
/** What a kind of block is called. */
export const typeName = (type: string, types: readonly { id: string; name: string }[]): string =>
  ownNames[type] ?? types.find((item) => item.id === type)?.name ?? type;

/** What is wrong with the fields of "@own" or "@hidden". `messageProblem` judges texts and links. */
export function checkPagesOwn(
  content: Content,
  base: readonly PropertyKey[],
  messageProblem: (message: string) => string | undefined,
): Problem[] {
  const at = (path: readonly PropertyKey[], code: ProblemCode, problem: string): Problem => ({
    path: pointer([...base, ...path]),
    code,
    problem,
  });
  if (content.type === hiddenType)
    return [
      ...Object.keys(content.fields).map((id) =>
        at(["fields", id], "not-here", t('"{hiddenType}" has no fields', { hiddenType })),
      ),
      ...Object.keys(content.tokens).map((name) =>
        at(["tokens", name], "not-here", t('"{hiddenType}" has no tokens', { hiddenType })),
      ),
    ];
  const read = ownFieldsSchema.safeParse(content.fields);
  if (!read.success)
    return problemsOf(read.error.issues).map(({ path, ...fault }) => ({
      path: `${pointer([...base, "fields"])}${path}`,
      ...fault,
    }));
  return read.data.changes.flatMap((change, index) =>
    (["text", "link"] as const).flatMap((kind) => {
      const wrong = change[kind] === undefined ? undefined : messageProblem(change[kind]);
      return wrong ? [at(["fields", "changes", index, kind], "form", wrong)] : [];
    }),
  );
}
