"use client";
import { t } from "@/core/messages/t";
import Button from "@mui/material/Button";
import { useSnackbar } from "notistack";
import { draftLike, replaceDraft } from "@/core/draft/replace";
import type { Ruleset } from "@/core/formats/ruleset";
import { useDesk } from "../parts/desk/desk";

/** Puts the rules and contents of a release into the draft. @param words what it is: "what is live", "release 3" */
export function LikeRelease({ ruleset, words }: { ruleset: Ruleset; words: string }) {
  const { draft } = useDesk();
  const { enqueueSnackbar } = useSnackbar();
  const edits = replaceDraft(draft.ruleset, draftLike(draft.ruleset, ruleset));
  return (
    <Button
      disabled={edits.length === 0}
      onClick={() => {
        draft.edit(t("The draft made like {words}", { words }), edits);
        enqueueSnackbar(t("The draft is like {words} now", { words }), {
          action: <Button onClick={() => draft.undoLast()}>{t("Undo")}</Button>,
        });
      }}
    >
      {t("Make the draft like {words}", { words })}
    </Button>
  );
}
