"use client";
import { t } from "@/core/messages/t";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import * as z from "zod";
import { freshThingId, insertItem } from "@/core/draft/lists";
import type { Edit } from "@/core/draft/edit";
import { readBy } from "@/core/formats/read";
import { ruleSchema, type Rule } from "@/core/formats/rule";
import { checkRule } from "@/core/rules/check";
import { ruleText } from "@/core/rules/sentence";
import { useDesk } from "../desk/desk";
import { Form } from "../form/form";
import { FormText } from "../form/form-text";
import { named, useForm } from "../form/use-form";

/** Saves a part of a rule under a name, to be used anywhere. */
export function AudienceDialog({
  rule,
  onClose,
  onMade,
}: {
  rule: Rule;
  onClose: () => void;
  onMade: (edit: Edit, id: string) => void;
}) {
  const { ruleset } = useDesk();
  const shape = z.object({
    name: named().refine((name) => !ruleset.audiences.some((item) => item.name === name), {
      error: () => t("There is an audience of that name already"),
    }),
  });
  const form = useForm(shape, { name: "" });
  const { control } = form;
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="xs">
      <Form
        form={form}
        onSend={({ name }) => {
          const id = freshThingId(name, "audiences", ruleset);
          onMade(insertItem(["audiences"], { id, name, rule }, ruleset.audiences.length), id);
        }}
      >
        <DialogTitle>{t("Save as an audience")}</DialogTitle>
        <DialogContent className="stack">
          <span className="rule">{ruleText(rule, ruleset)}</span>
          <FormText
            control={control}
            name="name"
            autoFocus
            label={t("Name of the audience")}
            helperText={t("This rule then names it, and any other can")}
          />
        </DialogContent>
        <DialogActions>
          <Button onClick={onClose}>{t("Cancel")}</Button>
          <Button type="submit" variant="contained">
            {t("Save")}
          </Button>
        </DialogActions>
      </Form>
    </Dialog>
  );
}

/** Shows a part of a rule as JSON text to copy; or, without one, takes a rule that was pasted. */
export function JsonDialog({
  rule,
  onClose,
  onTaken,
}: {
  rule: Rule | undefined;
  onClose: () => void;
  onTaken: (rule: Rule) => void;
}) {
  const { ruleset } = useDesk();
  const copying = rule !== undefined;
  const [text, setText] = useState(copying ? JSON.stringify(rule, null, 2) : "");
  const [copied, setCopied] = useState(false);
  const [tried, setTried] = useState(false);
  const read = readPasted(text);
  const notes = "rule" in read ? checkRule(read.rule, ruleset).slice(0, 3) : [];
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm">
      <DialogTitle>{copying ? t("Copy as JSON text") : t("Paste a rule")}</DialogTitle>
      <DialogContent className="stack">
        <TextField
          multiline
          autoFocus
          minRows={6}
          maxRows={16}
          value={text}
          onFocus={(event) => copying && event.target.select()}
          onChange={(event) => {
            setText(event.target.value);
            setTried(false);
          }}
          error={!copying && tried && "problem" in read}
          helperText={
            copying
              ? t("As the ruleset’s format has it (docs/formats.md)")
              : tried && "problem" in read
                ? read.problem
                : t("The JSON text of a rule, as it was copied")
          }
          slotProps={{
            htmlInput: {
              "aria-label": t("JSON text"),
              readOnly: copying,
              style: { fontFamily: "var(--code)", fontSize: 12.5 },
            },
          }}
        />
        {!copying && "rule" in read && (
          <>
            <span className="rule">{t("when {ruleText}", { ruleText: ruleText(read.rule, ruleset) })}</span>
            {notes.map((note) => (
              <span key={note.path} className="quiet">
                {t("To be mended here: {path} {problem}", { path: note.path || t("the whole"), problem: note.problem })}
              </span>
            ))}
          </>
        )}
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>{copying ? t("Close") : t("Cancel")}</Button>
        {copying ? (
          <Button
            variant="contained"
            onClick={() => void navigator.clipboard.writeText(text).then(() => setCopied(true))}
          >
            {copied ? t("Copied") : t("Copy")}
          </Button>
        ) : (
          <Button
            variant="contained"
            disabled={text.trim() === ""}
            onClick={() => {
              setTried(true);
              if ("rule" in read) onTaken(read.rule);
            }}
          >
            {t("Take it")}
          </Button>
        )}
      </DialogActions>
    </Dialog>
  );
}

function readPasted(text: string): { rule: Rule } | { problem: string } {
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch {
    return { problem: t("This is not JSON text. Copy it from a rule’s menu, or see docs/formats.md.") };
  }
  const read = readBy(ruleSchema, json);
  if (!read.ok)
    return {
      problem: t("No rule: {path} {problem}", {
        path: read.problems[0]?.path || t("the whole"),
        problem: read.problems[0]?.problem,
      }),
    };
  return { rule: read.value };
}
