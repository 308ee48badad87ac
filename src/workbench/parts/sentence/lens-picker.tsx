"use client";
import Button from "@mui/material/Button";
import Divider from "@mui/material/Divider";
import ListSubheader from "@mui/material/ListSubheader";
import Menu from "@mui/material/Menu";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { ChevronDown } from "lucide-react";
import { useSnackbar } from "notistack";
import { useState } from "react";
import { freshName } from "../fresh";
import { useDesk } from "../desk/desk";
import { useKeep } from "../desk/use-keep";

/** The made-up visitors that are kept, at the left end of the sentence. */
export function LensPicker() {
  const { look, lenses, lens, pickLens } = useDesk();
  const { keep, drop } = useKeep("lenses");
  const [at, setAt] = useState<HTMLElement | null>(null);
  const [name, setName] = useState("");
  const { enqueueSnackbar } = useSnackbar();
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
    setAt(null);
    enqueueSnackbar(`Saved as the lens “${wanted}”`);
  };
  return (
    <>
      <Button
        color="secondary"
        endIcon={<ChevronDown size={14} />}
        onClick={(event) => setAt(event.currentTarget)}
        sx={{ whiteSpace: "nowrap", flex: "none" }}
      >
        Lens: {current?.name ?? "your own"}
      </Button>
      <Menu open={at !== null} anchorEl={at} onClose={() => setAt(null)} slotProps={{ paper: { sx: { width: 320 } } }}>
        <ListSubheader sx={{ lineHeight: "28px" }}>Look through</ListSubheader>
        {lenses.map((item) => (
          <MenuItem
            key={item.id}
            selected={item.id === lens}
            onClick={() => {
              pickLens(item);
              setAt(null);
            }}
          >
            {item.name}
          </MenuItem>
        ))}
        <Divider />
        <li style={{ padding: "8px 14px" }} onKeyDown={(event) => event.stopPropagation()}>
          <form
            className="row"
            onSubmit={(event) => {
              event.preventDefault();
              void keepThis();
            }}
          >
            <TextField
              label="Save this lens as"
              value={name}
              onChange={(event) => setName(event.target.value)}
              slotProps={{ htmlInput: { maxLength: 80 } }}
            />
            <Button type="submit" variant="contained" disabled={name.trim() === ""}>
              Keep
            </Button>
          </form>
        </li>
        {current && (
          <MenuItem
            onClick={() => {
              setAt(null);
              void drop(current, `The lens “${current.name}” is deleted`);
            }}
          >
            Delete “{current.name}”
          </MenuItem>
        )}
      </Menu>
    </>
  );
}
