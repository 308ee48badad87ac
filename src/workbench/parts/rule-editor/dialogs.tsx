"use client";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import { freshThingId, insertItem } from "@/core/draft/lists";
import type { Edit } from "@/core/draft/edit";
import { readBy } from "@/core/formats/read";
import { ruleSchema, type Rule } from "@/core/formats/rule";
import { checkRule } from "@/core/rules/check";
import { ruleText } from "@/core/rules/sentence";
import { useDesk } from "../desk/desk";

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
  const [name, setName] = useState("");
  const wanted = name.trim();
  const taken = ruleset.audiences.some((item) => item.name === wanted);
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="xs">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (wanted === "" || taken) return;
          const id = freshThingId(wanted, "audiences", ruleset);
          onMade(insertItem(["audiences"], { id, name: wanted, rule }, ruleset.audiences.length), id);
        }}
      >
        <DialogTitle>Save as an audience</DialogTitle>
        <DialogContent className="stack">
          <span className="rule">{ruleText(rule, ruleset)}</span>
          <TextField
            autoFocus
            label="Name of the audience"
            value={name}
            error={taken}
            helperText={
              taken ? "There is an audience of that name already" : "This rule then names it, and any other can"
            }
            onChange={(event) => setName(event.target.value)}
          />
        </DialogContent>
        <DialogActions>
          <Button onClick={onClose}>Cancel</Button>
          <Button type="submit" variant="contained" disabled={wanted === "" || taken}>
            Save
          </Button>
        </DialogActions>
      </form>
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
      <DialogTitle>{copying ? "Copy as JSON text" : "Paste a rule"}</DialogTitle>
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
              ? "As the ruleset’s format has it (docs/formats.md)"
              : tried && "problem" in read
                ? read.problem
                : "The JSON text of a rule, as it was copied"
          }
          slotProps={{
            htmlInput: {
              "aria-label": "JSON text",
              readOnly: copying,
              style: { fontFamily: "var(--code)", fontSize: 12.5 },
            },
          }}
        />
        {!copying && "rule" in read && (
          <>
            <span className="rule">when {ruleText(read.rule, ruleset)}</span>
            {notes.map((note) => (
              <span key={note.path} className="quiet">
                To be mended here: {note.path || "the whole"} {note.problem}
              </span>
            ))}
          </>
        )}
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>{copying ? "Close" : "Cancel"}</Button>
        {copying ? (
          <Button
            variant="contained"
            onClick={() => void navigator.clipboard.writeText(text).then(() => setCopied(true))}
          >
            {copied ? "Copied" : "Copy"}
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
            Take it
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
    return { problem: "This is not JSON text. Copy it from a rule’s menu, or see docs/formats.md." };
  }
  const read = readBy(ruleSchema, json);
  if (!read.ok) return { problem: `No rule: ${read.problems[0]?.path || "the whole"} ${read.problems[0]?.problem}` };
  return { rule: read.value };
}
