import { tokensInUse } from "@/core/content/message";
import type { Content, Ruleset } from "@/core/formats/ruleset";
import type { TextKind } from "./convert";

export interface TextFieldProps {
  label: string;
  kind: TextKind;
  /** The text with its tokens, as an ICU message. */
  value: string;
  content: Content;
  /** The field of the content that this is. */
  field: string;
  ruleset: Ruleset;
  /** What is wrong with a text, in words: then it is shown at the field and not committed. */
  problem: (value: string) => string | undefined;
  /** Something to know about the text as it stands. */
  note?: string | undefined;
  /** What the lens at hand reads for a token. */
  read: (name: string, source: string) => string | undefined;
  /** Called a moment after the last key and when the field is left; `tokens` are those that the block then has. */
  onCommit: (value: string, tokens: Content["tokens"]) => void;
}

/** The tokens that a block has with one of its texts changed: those that are still named. */
export const tokensFor = (
  { content, field }: TextFieldProps,
  next: string,
  more: Content["tokens"] = {},
): Content["tokens"] => tokensInUse({ ...content.fields, [field]: next }, { ...content.tokens, ...more });
