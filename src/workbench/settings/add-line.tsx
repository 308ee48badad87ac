"use client";
import { t } from "@/core/messages/t";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useState } from "react";

interface Props {
  label: string;
  placeholder?: string;
  /** What is wrong with what was typed, in words. */
  problem?: (text: string) => string | undefined;
  button?: string;
  /** Adds it; a problem in words leaves what was typed there. */
  onAdd: (text: string) => void | Promise<string | undefined>;
}

/** A line by which one more is added to a list. */
export function AddLine({ label, placeholder, problem, button = t("Add"), onAdd }: Props) {
  const [text, setText] = useState("");
  const [refusal, setRefusal] = useState<string>();
  const wanted = text.trim();
  const wrong = refusal ?? (wanted === "" ? undefined : problem?.(wanted));
  return (
    <form
      className="row"
      style={{ alignItems: "flex-start" }}
      onSubmit={async (event) => {
        event.preventDefault();
        if (wanted === "" || wrong) return;
        const refused = await onAdd(wanted);
        setRefusal(refused ?? undefined);
        if (!refused) setText("");
      }}
    >
      <TextField
        label={label}
        placeholder={placeholder}
        value={text}
        error={wrong !== undefined}
        helperText={wrong}
        onChange={(event) => {
          setText(event.target.value);
          setRefusal(undefined);
        }}
      />
      <Button
        type="submit"
        disabled={wanted === "" || wrong !== undefined}
        sx={{ py: 1.5, whiteSpace: "nowrap", flex: "none" }}
      >
        {button}
      </Button>
    </form>
  );
}
