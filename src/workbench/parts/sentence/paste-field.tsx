"use client";
import { t } from "@/core/messages/t";
import TextField from "@mui/material/TextField";
import { useSnackbar } from "notistack";
import { useEffect, useState } from "react";
import { readDevice } from "@/core/visit/device";
import { takePaste } from "@/core/lens/phrases";
import { useDesk } from "../desk/desk";

/** Takes whatever is pasted, here or anywhere on the screen, as the part of the visit that it fits. */
export function PasteField() {
  const { look, ruleset, setWidth } = useDesk();
  const [text, setText] = useState("");
  const [problem, setProblem] = useState<string>();
  const { enqueueSnackbar } = useSnackbar();
  const take = (pasted: string): boolean => {
    const taken = takePaste(pasted, look.visit, ruleset.site.origin);
    if ("problem" in taken) {
      setProblem(taken.problem);
      return false;
    }
    look.setVisit(taken.visit);
    const kind = readDevice(taken.visit.userAgent, taken.visit.hints)?.kind;
    if (taken.as === t("the device")) setWidth(kind === "phone" || kind === "tablet" ? kind : "desktop");
    setProblem(undefined);
    setText("");
    enqueueSnackbar(t("Taken as {as}", { as: taken.as }));
    return true;
  };
  // Pasting anywhere on the screen works too, as long as no field is being filled in.
  useEffect(() => {
    const paste = (event: ClipboardEvent) => {
      const target = event.target as HTMLElement;
      const pasted = event.clipboardData?.getData("text/plain") ?? "";
      if (target.closest("input, textarea, [contenteditable]") || pasted.trim() === "") return;
      setText(pasted);
      take(pasted);
    };
    document.addEventListener("paste", paste);
    return () => document.removeEventListener("paste", paste);
  });
  return (
    <form
      className="paste"
      onSubmit={(event) => {
        event.preventDefault();
        if (text.trim() !== "") take(text);
      }}
    >
      <TextField
        placeholder={t("Paste …")}
        value={text}
        error={problem !== undefined}
        helperText={problem}
        onChange={(event) => {
          setText(event.target.value);
          setProblem(undefined);
        }}
        onPaste={(event) => {
          const pasted = event.clipboardData.getData("text/plain");
          if (take(pasted)) event.preventDefault();
        }}
        slotProps={{ htmlInput: { "aria-label": t("Paste a link, a referrer, a User-Agent or an Accept-Language") } }}
      />
    </form>
  );
}
