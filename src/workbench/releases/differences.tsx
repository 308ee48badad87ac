"use client";
import { t } from "@/core/messages/t";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import type { Difference } from "@/core/draft/difference";
import type { ReviewComment } from "@/server/types";
import { useDesk } from "../parts/desk/desk";

const keyOf = ({ where, what, says }: Difference): string => `${where} · ${what} ${says}`;

interface Props {
  differences: readonly Difference[];
  comments?: readonly ReviewComment[];
  /** Given: each change can be commented on. */
  onComment?: (change: string, says: string) => Promise<void>;
}

/** Every change as a sentence, with what stood there before and after, and what was said about it. */
export function Differences({ differences, comments = [], onComment }: Props) {
  return (
    <div className="diff">
      {differences.map((item, index) => (
        <div key={index}>
          <span className="quiet">{item.where} · </span>
          <b>{item.what}</b> {item.says}
          {(item.before !== undefined || item.after !== undefined) && (
            <div className="texts">
              {item.before !== undefined && <del>{item.before}</del>}
              {item.after !== undefined && <ins>{item.after}</ins>}
            </div>
          )}
          <Said
            comments={comments.filter((comment) => comment.change === keyOf(item))}
            onComment={onComment && ((says) => onComment(keyOf(item), says))}
            about={keyOf(item)}
          />
        </div>
      ))}
    </div>
  );
}

/** What was said about one change, and the way to say more. */
export function Said({
  comments,
  onComment,
  about,
}: {
  comments: readonly ReviewComment[];
  onComment: ((says: string) => Promise<void>) | undefined;
  about: string;
}) {
  const { nameOf } = useDesk();
  const [text, setText] = useState<string>();
  return (
    <>
      {comments.map((comment) => (
        <p key={comment.number} className="comment">
          <b>{nameOf(comment.person)}</b> {comment.says}
        </p>
      ))}
      {onComment && text === undefined && (
        <Button
          size="small"
          variant="text"
          sx={{ alignSelf: "flex-start" }}
          aria-label={t("Comment on {about}", { about })}
          onClick={() => setText("")}
        >
          {t("Comment")}
        </Button>
      )}
      {onComment && text !== undefined && (
        <form
          className="row"
          onSubmit={(event) => {
            event.preventDefault();
            if (text.trim() !== "") void onComment(text.trim()).then(() => setText(undefined));
          }}
        >
          <TextField
            autoFocus
            label={t("Your comment")}
            value={text}
            onChange={(event) => setText(event.target.value)}
            onKeyDown={(event) => event.key === "Escape" && setText(undefined)}
            slotProps={{ htmlInput: { maxLength: 2000 } }}
          />
          <Button type="submit" disabled={text.trim() === ""}>
            {t("Say it")}
          </Button>
        </form>
      )}
    </>
  );
}
