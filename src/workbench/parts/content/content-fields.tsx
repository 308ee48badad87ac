"use client";
import { t, within } from "@/core/messages/t";
import FormControlLabel from "@mui/material/FormControlLabel";
import Switch from "@mui/material/Switch";
import { useSnackbar } from "notistack";
import { cleanedText, textProblem } from "@/core/content/author";
import { hiddenType, ownType } from "@/core/content/own";
import type { Edit } from "@/core/draft/edit";
import type { BlockType, Content } from "@/core/formats/ruleset";
import { signalInfo } from "@/core/visit/signals";
import { useDesk } from "../desk/desk";
import { Field } from "../field";
import { TextField } from "../text-field/text-field";
import { KeptOwnFields, OwnFields } from "./own-fields";
import { PictureField } from "./picture-field";
import { useReading } from "./use-reading";

interface Props {
  content: Content;
  /** Where the content stands in the draft. */
  at: readonly string[];
  /** What it belongs to, for the words of a change. */
  owner: string;
  /** The slot's fallback, from which a text is taken where a value is missing. */
  fallback?: Content | null | undefined;
}

/** The fields of a block, one editor each by its kind. What is typed is on the page a moment later. */
export function ContentFields({ content, at, owner, fallback }: Props) {
  const { ruleset, draft } = useDesk();
  const reading = useReading();
  const { enqueueSnackbar } = useSnackbar();
  if (content.type === ownType)
    return at[0] === "slots" ? (
      <OwnFields content={content} at={at} slot={at[1] ?? ""} owner={owner} />
    ) : (
      <KeptOwnFields content={content} at={at} owner={owner} />
    );
  if (content.type === hiddenType)
    return <span className="quiet">{t("Nothing: these visitors see the page without this part.")}</span>;
  const type = ruleset.blockTypes.find((item) => item.id === content.type);
  if (!type) return <span className="error">{t("This content is of a block type that no longer exists.")}</span>;

  const set = (field: BlockType["fields"][number], after: unknown, tokens = content.tokens) => {
    const edits: Edit[] = [
      { do: "set", at: [...at, "fields", field.id], before: content.fields[field.id], after },
      { do: "set", at: [...at, "tokens"], before: content.tokens, after: tokens },
    ];
    draft.edit(
      t("{field} of {owner}", { field: field.name, owner }),
      tokens === content.tokens ? edits.slice(0, 1) : edits,
    );
  };
  const read = (name: string, source: string): string | undefined => {
    const text = reading.text(content, source, "text");
    return typeof text === "string" && Object.hasOwn(content.tokens, name) ? text : undefined;
  };
  const noteFor = (field: BlockType["fields"][number], source: string): string | undefined => {
    const text = reading.text(content, source, field.kind);
    if (typeof text === "string") return undefined;
    const token = Object.hasOwn(content.tokens, text.missing) ? content.tokens[text.missing] : undefined;
    const what = token ? (signalInfo(token.signal, ruleset)?.label ?? token.signal) : `{${text.missing}}`;
    const other = fallback?.type === content.type ? fallback.fields[field.id] : undefined;
    const taken = typeof other === "string" && typeof reading.text(fallback as Content, other, field.kind) === "string";
    return t("{replace} is missing for this visitor: {taken}.", {
      replace: what.replace(/^the /, "The "),
      taken: taken ? t("the fallback’s text is shown") : t("nothing is shown here"),
    });
  };
  return (
    <div className="stack">
      {type.fields.map((field) => {
        const before = content.fields[field.id];
        const text = typeof before === "string" ? before : "";
        switch (field.kind) {
          case "number":
            return (
              <Field
                key={field.id}
                label={field.name}
                value={before === undefined ? "" : String(before)}
                problem={(typed) => (typed === "" || Number.isFinite(Number(typed)) ? undefined : t("Give a number"))}
                onCommit={(typed) => set(field, typed === "" ? undefined : Number(typed))}
              />
            );
          case "flag":
            return (
              <FormControlLabel
                key={field.id}
                control={<Switch checked={before === true} onChange={(event) => set(field, event.target.checked)} />}
                label={field.name}
              />
            );
          case "image":
            return (
              <PictureField key={field.id} label={field.name} value={before} onChange={(next) => set(field, next)} />
            );
          default:
            return (
              <TextField
                key={field.id}
                label={field.name}
                kind={field.kind === "link" ? "line" : field.kind}
                value={text}
                content={content}
                field={field.id}
                ruleset={ruleset}
                read={read}
                note={noteFor(field, text)}
                problem={(typed) => textProblem(typed, field.kind)}
                onCommit={(typed, tokens) => {
                  const { text: kept, removed } = cleanedText(typed, field.kind);
                  if (removed.length > 0)
                    enqueueSnackbar(
                      t("Taken out of {field}: {removed}", {
                        field: within(field.name),
                        removed: removed.slice(0, 4).join(", "),
                      }),
                      {
                        variant: "warning",
                      },
                    );
                  if (kept !== text || JSON.stringify(tokens) !== JSON.stringify(content.tokens))
                    set(field, kept, tokens);
                }}
              />
            );
        }
      })}
    </div>
  );
}
