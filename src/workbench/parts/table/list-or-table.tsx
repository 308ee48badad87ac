"use client";
import { t } from "@/core/messages/t";
import ToggleButton from "@mui/material/ToggleButton";
import ToggleButtonGroup from "@mui/material/ToggleButtonGroup";
import { useGo } from "../desk/use-go";

interface Props {
  /** What it chooses, for whoever listens: "How links are shown". */
  name: string;
  /** The screen's address: "/links". */
  screen: string;
  table: boolean;
}

/** Shows the things of a screen one by one beside a list, or all of them in a table; the address keeps which. */
export function ListOrTable({ name, screen, table }: Props) {
  const go = useGo();
  return (
    <ToggleButtonGroup
      exclusive
      size="small"
      aria-label={name}
      value={table ? "table" : "one"}
      onChange={(_, next: "table" | "one" | null) => next && go(next === "table" ? `${screen}?show=table` : screen)}
    >
      <ToggleButton value="one">{t("List")}</ToggleButton>
      <ToggleButton value="table">{t("Table")}</ToggleButton>
    </ToggleButtonGroup>
  );
}
