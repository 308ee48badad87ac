"use client";
import { t } from "@/core/messages/t";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import MenuList from "@mui/material/MenuList";
import Popover from "@mui/material/Popover";
import TextField from "@mui/material/TextField";
import { ChevronDown } from "lucide-react";
import { useSnackbar } from "notistack";
import { useState } from "react";
import { finder } from "@/core/text/find";
import { freshName } from "../fresh";
import { useDesk } from "../desk/desk";
import { useKeep } from "../desk/use-keep";

/** More lenses than so many are searched; so many of those found are listed. */
const [manyLenses, mostShown] = [10, 60] as const;

/** The made-up visitors that are kept, at the left end of the sentence. */
export function LensPicker() {
  const { look, lenses, lens, pickLens } = useDesk();
  const { keep, drop } = useKeep("lenses");
  const [at, setAt] = useState<HTMLElement | null>(null);
  const [name, setName] = useState("");
  const { enqueueSnackbar } = useSnackbar();
  const [search, setSearch] = useState("");
  const has = finder(search);
  const found = lenses.filter((item) => has(item.name));
  const close = () => {
    setAt(null);
    setSearch("");
  };
  const current = lenses.find((item) => item.id === lens);
  const keepThis = async () => {
    const wanted = name.trim();
    if (wanted === "") return;
    const kept = {
      id: freshName("lens"),
      name: wanted,
      visit: { ...look.visit, page: undefined },
      steps: [],
    };
    if (!(await keep([kept]))) return;
    pickLens(kept);
    setName("");
    close();
    enqueueSnackbar(t("Saved as the lens “{wanted}”", { wanted }));
  };
  return (
    <>
      <Button
        className="lenspicker"
        color="secondary"
        endIcon={<ChevronDown size={14} />}
        onClick={(event) => setAt(event.currentTarget)}
      >
        <span>{t("Lens: {current}", { current: current?.name ?? t("your own") })}</span>
      </Button>
      <Popover
        open={at !== null}
        anchorEl={at}
        anchorOrigin={{ vertical: "bottom", horizontal: "left" }}
        onClose={close}
        slotProps={{ paper: { role: "dialog", "aria-label": t("Lenses"), className: "lensmenu" } }}
      >
        {lenses.length > manyLenses && (
          <TextField
            autoFocus
            placeholder={t("Search {lenses} lenses", { lenses: lenses.length })}
            value={search}
            onChange={(event) => setSearch(event.target.value)}
            slotProps={{ htmlInput: { "aria-label": t("Search lenses") } }}
          />
        )}
        <MenuList autoFocusItem={lenses.length <= manyLenses} aria-label={t("View as")} className="lenses">
          {found.slice(0, mostShown).map((item) => (
            <MenuItem
              key={item.id}
              selected={item.id === lens}
              onClick={() => {
                pickLens(item);
                close();
              }}
            >
              {item.name}
            </MenuItem>
          ))}
        </MenuList>
        {found.length === 0 && <p className="quiet">{t("No lens has that name.")}</p>}
        {found.length > mostShown && (
          <p className="quiet">{t("and {found} more: search for them", { found: found.length - mostShown })}</p>
        )}
        <form
          className="row"
          onSubmit={(event) => {
            event.preventDefault();
            void keepThis();
          }}
        >
          <TextField
            label={t("Save this lens as")}
            value={name}
            onChange={(event) => setName(event.target.value)}
            slotProps={{ htmlInput: { maxLength: 80 } }}
          />
          <Button type="submit" variant="contained" disabled={name.trim() === ""}>
            {t("Save")}
          </Button>
        </form>
        {current && (
          <Button
            variant="text"
            onClick={() => {
              close();
              void drop(current, t("The lens “{current}” is deleted", { current: current.name }));
            }}
          >
            {t("Delete “{current}”", { current: current.name })}
          </Button>
        )}
      </Popover>
    </>
  );
}
