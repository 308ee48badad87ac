"use client";
import { t } from "@/core/messages/t";
import { rich } from "../rich";
import Button from "@mui/material/Button";
import { useState } from "react";
import { textProblem } from "@/core/content/author";
import { quoteText } from "@/core/content/message";
import { changedParts, changesOf, kindOfChange, withChange, type OwnChange } from "@/core/content/own";
import type { Edit } from "@/core/draft/edit";
import type { Content } from "@/core/formats/ruleset";
import { spaced } from "@/core/text/spaced";
import type { Part } from "@/core/preview/messages";
import { useDesk } from "../desk/desk";
import { useParts } from "../page-frame/page-line";
import { TextField } from "../text-field/text-field";
import { PictureField } from "./picture-field";
import { useReading } from "./use-reading";

interface Props {
  content: Content;
  /** Where the content stands in the draft. */
  at: readonly string[];
  owner: string;
}
type Shown = Pick<Part, "part" | "name" | "text" | "link" | "image" | "differs">;
type Kind = ReturnType<typeof kindOfChange>;

/** What a change is made for: where the slot's places say several things, it is for all of them. */
const was = ({ text, differs }: Shown): { was?: string } => (text && !differs ? { was: text } : {});

/** So many parts are shown before one asks for the rest. */
const few = 8;

/** What the page itself has in a slot's place, part by part, each to be changed or hidden. */
export function OwnFields({ slot, ...rest }: Props & { slot: string }) {
  return <OwnParts parts={useParts(slot)} {...rest} />;
}

/** The same without the page: what is changed, and nothing else. */
export function KeptOwnFields(props: Props) {
  return <OwnParts parts={changedParts(changesOf(props.content))} {...props} />;
}

/** @param props.parts undefined until the page has told them */
function OwnParts({ content, at, owner, parts }: Props & { parts: readonly Shown[] | undefined }) {
  const { draft, ruleset } = useDesk();
  const reading = useReading();
  const [all, setAll] = useState(false);
  const changes = changesOf(content);
  const found = (part: string, kind: Kind) =>
    changes.find((change) => change.part === part && kindOfChange(change) === kind);

  const put = (part: string, kind: Kind, next: OwnChange | undefined, says: string, tokens = content.tokens) => {
    const edits: Edit[] = [
      { do: "set", at: [...at, "fields", "changes"], before: changes, after: withChange(changes, part, kind, next) },
    ];
    if (tokens !== content.tokens)
      edits.push({ do: "set", at: [...at, "tokens"], before: content.tokens, after: tokens });
    draft.edit(t("{says} in {owner}", { says, owner }), edits);
  };
  /** The texts of all changes as fields of a block: what the text editor reads tokens by. */
  const flat: Content = {
    type: content.type,
    tokens: content.tokens,
    fields: Object.fromEntries(
      changes.map((change) => [`${kindOfChange(change)} ${change.part}`, change.text ?? change.link ?? ""]),
    ),
  };
  const message = (part: Shown, kind: "text" | "link", label: string) => {
    const own = (kind === "text" ? part.text : part.link) ?? "";
    const change = found(part.part, kind);
    const value = change?.[kind] ?? quoteText(own);
    const missing = reading.text(flat, value, kind);
    return (
      <TextField
        label={label}
        kind="line"
        value={value}
        content={flat}
        field={`${kind} ${part.part}`}
        ruleset={ruleset}
        read={(name, source) => {
          const text = reading.text(flat, source, "text");
          return typeof text === "string" && Object.hasOwn(flat.tokens, name) ? text : undefined;
        }}
        note={
          typeof missing === "string" ? undefined : t("A value is missing for this visitor: the page’s own stays here.")
        }
        // What the page itself has there is no mistake of whoever edits.
        problem={(typed) => (typed === quoteText(own) ? undefined : textProblem(typed, kind))}
        onCommit={(typed, tokens) => {
          const isOwn = typed === quoteText(own);
          const next: OwnChange = { part: part.part, ...was(part), [kind]: typed };
          if (isOwn ? change : change?.[kind] !== typed || tokens !== content.tokens)
            put(part.part, kind, isOwn ? undefined : next, part.name, tokens);
        }}
      />
    );
  };
  const isChanged = (part: Shown) => changes.some((change) => change.part === part.part);
  const gone = parts ? changes.filter((change) => !parts.some((part) => part.part === change.part)) : [];
  const listed = parts ?? [];
  const shown = all || listed.length <= few + 2 ? listed : listed.filter((part, at) => at < few || isChanged(part));
  return (
    <div className="stack">
      {!parts && (
        <span className="quiet">
          {t("The page is asked what stands there. It has to be open beside this, on a page that has the slot.")}
        </span>
      )}
      {parts?.length === 0 && (
        <span className="quiet">{t("Nothing that stands there can be changed part by part.")}</span>
      )}
      {shown.map((part) => {
        const hiding = found(part.part, "hidden");
        const drifted = changes.find(
          (change) =>
            change.part === part.part && change.was !== undefined && spaced(change.was) !== spaced(part.text ?? ""),
        );
        return (
          <section key={part.part} className={`ownpart${isChanged(part) ? " changed" : ""}`} aria-label={part.name}>
            <div className="row">
              <span className="ownname">{part.name}</span>
              <Button
                size="small"
                aria-pressed={hiding !== undefined}
                onClick={() =>
                  put(
                    part.part,
                    "hidden",
                    hiding ? undefined : { part: part.part, ...was(part), hidden: true },
                    `${part.name} ${hiding ? t("shown again") : t("hidden")}`,
                  )
                }
              >
                {hiding ? t("Show it again") : t("Hide")}
              </Button>
            </div>
            {hiding ? (
              <span className="quiet">{t("Hidden for these visitors.")}</span>
            ) : (
              <>
                {part.text !== undefined && message(part, "text", t("Words"))}
                {part.differs && (
                  <span className="quiet">
                    {t("It is not the same in each place of the slot: your words stand in all of them.")}
                  </span>
                )}
                {part.link !== undefined && message(part, "link", t("Leads to"))}
                {part.image && (
                  <PictureField
                    label={t("Picture")}
                    value={found(part.part, "image")?.image ?? part.image}
                    onChange={(image) => {
                      const isOwn = image.src === part.image?.src && (image.alt ?? "") === (part.image.alt ?? "");
                      put(part.part, "image", isOwn ? undefined : { part: part.part, image }, part.name);
                    }}
                  />
                )}
              </>
            )}
            {drifted && (
              <div className="missing" role="note">
                {t(
                  "The page said “{was}” here when this was made. While it says something else, nothing of this version is shown.",
                  { was: drifted.was },
                )}{" "}
                <Button
                  size="small"
                  onClick={() =>
                    draft.edit(t("{part} taken as it is now, in {owner}", { part: part.name, owner }), [
                      {
                        do: "set",
                        at: [...at, "fields", "changes"],
                        before: changes,
                        after: changes.map((change) =>
                          change.part === part.part && change.was !== undefined
                            ? { ...change, was: part.text ?? "" }
                            : change,
                        ),
                      },
                    ])
                  }
                >
                  {t("Take it as it is now")}
                </Button>
              </div>
            )}
          </section>
        );
      })}
      {shown.length < listed.length && (
        <div className="row">
          <Button onClick={() => setAll(true)}>{t("All {listed} parts", { listed: listed.length })}</Button>
        </div>
      )}
      {(parts ? gone : changes).map((change) => {
        const kind = kindOfChange(change);
        return (
          <section key={`${kind} ${change.part}`} className="ownpart changed" aria-label={change.was ?? change.part}>
            {parts && (
              <div className="missing" role="note">
                {rich(
                  "{part} is not on this page any more: nothing of this version is shown until the change is taken out or made anew.",
                  { part: change.was ? `“${change.was}”` : <code>{change.part}</code> },
                )}
              </div>
            )}
            <div className="row">
              <span style={{ flex: 1 }}>{change.text ?? change.link ?? change.image?.src ?? t("Hidden")}</span>
              <Button size="small" onClick={() => put(change.part, kind, undefined, t("A change taken out"))}>
                {t("Take it out")}
              </Button>
            </div>
          </section>
        );
      })}
    </div>
  );
}
