"use client";
import { said, t, text } from "@/core/messages/t";
import Button from "@mui/material/Button";
import IconButton from "@mui/material/IconButton";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { Trash2 } from "lucide-react";
import { useState } from "react";
import { freshIdIn, freshThingId, insertItem, removeItem } from "@/core/draft/lists";
import { fieldKinds, type BlockType, type FieldKind } from "@/core/formats/ruleset";
import { allContents, usesOf } from "@/core/ruleset/uses";
import { useDesk } from "../parts/desk/desk";
import { Field } from "../parts/field";
import { AddLine } from "./add-line";
import { Section } from "./section";

const kindWords: Record<FieldKind, string> = said({
  line: text("one line of text"),
  text: text("text of several lines"),
  html: text("rich text"),
  image: text("picture with a description"),
  link: text("link"),
  number: text("number"),
  flag: text("on or off"),
});

/** The kinds of blocks, declared once by the developer: authors fill in their fields. */
export function BlockTypes() {
  const { ruleset, draft } = useDesk();
  const [open, setOpen] = useState<string>();
  const usesOfType = (id: string) =>
    usesOf({ blockType: id }, ruleset).length + ruleset.library.filter((block) => block.content.type === id).length;
  return (
    <Section
      title={t("Kinds of blocks")}
      says={t(
        "What a version can be made of. The developer declares its fields here and draws it on the site by a template with the same id; without one, its fields are shown in their order.",
      )}
    >
      {ruleset.blockTypes.map((type) => {
        const uses = usesOfType(type.id);
        return (
          <div key={type.id} className="stack line" style={{ paddingBottom: 8, borderBottom: "1px solid var(--hair)" }}>
            <div className="row">
              <b>{type.name}</b>
              <code>{type.id}</code>
              <span className="quiet" style={{ flex: 1 }}>
                {type.fields
                  .map((field) => field.name)
                  .slice(0, 4)
                  .join(", ") || t("no fields yet")}
                {type.fields.length > 4 && " …"}
              </span>
              <Button
                aria-expanded={open === type.id}
                aria-label={t("Fields of {type}", { type: type.name })}
                onClick={() => setOpen(open === type.id ? undefined : type.id)}
              >
                {open === type.id ? t("Close") : t("Fields")}
              </Button>
              <IconButton
                size="small"
                aria-label={t("Remove the kind {type}", { type: type.name })}
                disabled={uses > 0}
                title={uses > 0 ? t("Used {uses} times", { uses }) : undefined}
                onClick={() =>
                  draft.edit(t("Kind of block {type} removed", { type: type.name }), [
                    removeItem(["blockTypes"], ruleset.blockTypes, type),
                  ])
                }
              >
                <Trash2 size={14} />
              </IconButton>
            </div>
            {open === type.id && <TypeFields type={type} />}
          </div>
        );
      })}
      <AddLine
        label={t("Name of a new kind of block")}
        button={t("Add a kind")}
        onAdd={(name) => {
          const id = freshThingId(name, "blockTypes", ruleset);
          draft.edit(t("Kind of block {name} is new", { name }), [
            insertItem(["blockTypes"], { id, name, fields: [] }, ruleset.blockTypes.length),
          ]);
          setOpen(id);
        }}
      />
    </Section>
  );
}

function TypeFields({ type }: { type: BlockType }) {
  const { ruleset, draft } = useDesk();
  const at = ["blockTypes", type.id];
  const setFields = (fields: BlockType["fields"], says: string) =>
    draft.edit(says, [{ do: "set", at: [...at, "fields"], before: type.fields, after: fields }]);
  const contents = [
    ...allContents(ruleset).map((item) => item.content),
    ...ruleset.library.map((block) => block.content),
  ];
  const filled = (field: string) =>
    contents.filter((content) => content.type === type.id && content.fields[field] !== undefined).length;
  return (
    <div className="stack">
      <Field
        label={t("Name of the kind")}
        value={type.name}
        problem={(name) => (name.trim() === "" ? t("Give it a name") : undefined)}
        onCommit={(name) =>
          draft.edit(t("Kind of block {type} renamed", { type: type.name }), [
            { do: "set", at: [...at, "name"], before: type.name, after: name },
          ])
        }
      />
      {type.fields.map((field, index) => {
        const uses = filled(field.id);
        const change = (next: Partial<typeof field>, says: string) =>
          setFields(
            type.fields.map((item, i) => (i === index ? { ...item, ...next } : item)),
            says,
          );
        return (
          <div key={field.id} className="row">
            <Field
              label={t("Field {index}", { index: index + 1 })}
              value={field.name}
              problem={(name) => (name.trim() === "" ? t("Give it a name") : undefined)}
              onCommit={(name) =>
                change({ name }, t("Field {field} of {type} renamed", { field: field.name, type: type.name }))
              }
            />
            <TextField
              select
              value={field.kind}
              disabled={uses > 0}
              onChange={(event) =>
                change(
                  { kind: event.target.value as FieldKind },
                  t("Kind of the field {field} of {type}", { field: field.name, type: type.name }),
                )
              }
              sx={{ width: 220 }}
              slotProps={{ htmlInput: { "aria-label": t("Kind of {field}", { field: field.name }) } }}
            >
              {fieldKinds.map((kind) => (
                <MenuItem key={kind} value={kind}>
                  {kindWords[kind]}
                </MenuItem>
              ))}
            </TextField>
            <IconButton
              size="small"
              aria-label={t("Remove the field {field}", { field: field.name })}
              disabled={uses > 0}
              title={uses > 0 ? t("Filled in {uses} times", { uses }) : undefined}
              onClick={() =>
                setFields(
                  type.fields.filter((_, i) => i !== index),
                  t("Field {field} of {type} removed", { field: field.name, type: type.name }),
                )
              }
            >
              <Trash2 size={14} />
            </IconButton>
          </div>
        );
      })}
      <AddLine
        label={t("Name of a new field")}
        button={t("Add a field")}
        onAdd={(name) => {
          const id = freshIdIn(name, new Set(type.fields.map((field) => field.id)), "field");
          setFields(
            [...type.fields, { id, name, kind: "line" }],
            t("Field {name} of {type}", { name, type: type.name }),
          );
        }}
      />
    </div>
  );
}
