"use client";
import { t } from "@/core/messages/t";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { diffWordsWithSpace } from "diff";
import { useState } from "react";
import { changeRows, isPagesOwn } from "@/core/content/own";
import type { Content, Ruleset } from "@/core/formats/ruleset";

/** A text that can be compared with, or gone back to. */
export interface OtherContent {
  name: string;
  content: Content;
}
interface Props {
  title: string;
  /** What the texts at hand are called: "Shade ferns". */
  mine: string;
  content: Content;
  others: readonly OtherContent[];
  ruleset: Ruleset;
  /** The word on the button that takes the other text: "Take this text". */
  taking: string;
  onTake: (content: Content) => void;
  onClose: () => void;
}

const words = (value: unknown): string =>
  value === undefined
    ? ""
    : typeof value === "object" && value !== null
      ? [(value as { src?: string }).src, (value as { alt?: string }).alt].filter(Boolean).join(" · ")
      : String(value);

const valueOf = (content: Content, id: string): string =>
  isPagesOwn(content) ? (changeRows(content).find((row) => row.key === id)?.value ?? "") : words(content.fields[id]);

/** Two texts beside each other, field by field, with the words in which they differ marked. */
export function CompareDialog({ title, mine, content, others, ruleset, taking, onTake, onClose }: Props) {
  const [at, setAt] = useState(0);
  const other = others[at];
  const fields = [content, other?.content ?? content].flatMap((one) => [
    ...(ruleset.blockTypes.find((item) => item.id === one.type)?.fields ?? []),
    ...changeRows(one).map(({ key, name }) => ({ id: key, name })),
  ]);
  const seen = new Set<string>();
  const rows = fields.filter((field) => !seen.has(field.id) && seen.add(field.id));
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="md" aria-labelledby="compare-title">
      <DialogTitle id="compare-title">{title}</DialogTitle>
      <DialogContent className="stack" sx={{ px: "22px" }}>
        {others.length === 0 || !other ? (
          <span className="quiet">{t("There is no other text yet.")}</span>
        ) : (
          <>
            <TextField
              select
              label={t("Beside it")}
              value={at}
              onChange={(event) => setAt(Number(event.target.value))}
              sx={{ maxWidth: 460, mt: 2 }}
            >
              {others.map((item, index) => (
                <MenuItem key={index} value={index}>
                  {item.name}
                </MenuItem>
              ))}
            </TextField>
            <div className="compare" role="table" aria-label={t("Both texts")}>
              <div role="row" className="head">
                <span role="columnheader">{t("Field")}</span>
                <span role="columnheader">{mine}</span>
                <span role="columnheader">{other.name}</span>
              </div>
              {rows.map((field) => {
                const [own, theirs] = [valueOf(content, field.id), valueOf(other.content, field.id)];
                const parts = diffWordsWithSpace(own, theirs);
                return (
                  <div key={field.id} role="row" className={own === theirs ? "same" : undefined}>
                    <span role="rowheader" className="quiet">
                      {field.name}
                    </span>
                    <span role="cell">
                      {parts.map((part, index) =>
                        part.added ? null : part.removed ? <del key={index}>{part.value}</del> : part.value,
                      )}
                    </span>
                    <span role="cell">
                      {parts.map((part, index) =>
                        part.removed ? null : part.added ? <ins key={index}>{part.value}</ins> : part.value,
                      )}
                    </span>
                  </div>
                );
              })}
            </div>
          </>
        )}
      </DialogContent>
      <DialogActions sx={{ px: "22px", pb: 4 }}>
        <Button onClick={onClose}>{t("Close")}</Button>
        {other && (
          <Button variant="contained" onClick={() => onTake(other.content)}>
            {taking}
          </Button>
        )}
      </DialogActions>
    </Dialog>
  );
}
