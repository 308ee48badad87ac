"use client";
import { t } from "@/core/messages/t";
import IconButton from "@mui/material/IconButton";
import dynamic from "next/dynamic";
import { Code } from "lucide-react";
import { useMemo, useState } from "react";
import { Field } from "../field";
import { toEditor } from "./convert";
import { tokensFor, type TextFieldProps } from "./text-props";

const load = () => import("./chip-field").then((module) => module.ChipField);
const ChipField = dynamic(load, { ssr: false, loading: () => <div className="chipfield" aria-busy /> });
/** Loads the editor beforehand, so that it is there when a text is opened. */
export const prepareTexts = (): Promise<unknown> => load();

/** A text with values of the visit in it, as chips; rich text where the field is of that kind. Can be edited as it is written, too. */
export function TextField(props: TextFieldProps) {
  const { label, kind, value, problem, note } = props;
  const [plain, setPlain] = useState(false);
  const shown = useMemo(() => toEditor(value, kind), [value, kind]);
  const asWritten = plain || shown === undefined;
  const toggle = (
    <IconButton
      size="small"
      aria-label={
        asWritten ? t("Show {label} with values as chips", { label }) : t("Show {label} as it is written", { label })
      }
      aria-pressed={asWritten}
      title={asWritten ? t("With values as chips") : t("As it is written")}
      disabled={shown === undefined}
      onClick={() => setPlain(!plain)}
    >
      <Code size={14} />
    </IconButton>
  );
  if (!asWritten) return <ChipField {...props} toggle={toggle} />;
  return (
    <div className="aswritten">
      <Field
        label={label}
        value={value}
        multiline
        minRows={kind === "line" ? 1 : 2}
        maxRows={10}
        problem={problem}
        helperText={note}
        onCommit={(next) => props.onCommit(next, tokensFor(props, next))}
        slotProps={{ htmlInput: { style: { fontFamily: "var(--code)", fontSize: 12.5 } } }}
      />
      {toggle}
    </div>
  );
}
