"use client";
import { said, t, text } from "@/core/messages/t";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";

/** What keys do, by where they do it. */
const shortcuts: readonly { where: string; keys: readonly [keys: string, does: string][] }[] = said([
  {
    where: text("Everywhere"),
    keys: [
      [text("Ctrl K"), text("Go anywhere")],
      [text("Ctrl Z"), text("Undo")],
      [text("Ctrl Shift Z"), text("Redo")],
      ["?", text("Show these shortcuts")],
      [text("Esc"), text("Close what is open")],
    ],
  },
  {
    where: text("On the ribbon"),
    keys: [
      ["← →", text("One hour earlier or later")],
      [text("Shift ← →"), text("One day earlier or later")],
      [text("Page Up, Page Down"), text("One day earlier or later")],
      ["+ −", text("Zoom in or out")],
    ],
  },
  {
    where: text("In a rule and in lists that have an order"),
    keys: [
      ["↑ ↓", text("Move the condition whose grip has the focus")],
      [text("Space, then ↑ ↓"), text("Pick up a row by its grip, and move it")],
    ],
  },
  {
    where: text("On the grid of hours"),
    keys: [
      ["← → ↑ ↓", text("Go to another hour")],
      [text("Shift ← → ↑ ↓"), text("Draw")],
      [text("Enter"), text("Take what is drawn")],
    ],
  },
  {
    where: text("Pointing at a part of the page"),
    keys: [
      ["↑ ↓", text("Wider, narrower")],
      ["← →", text("The part before, the part after")],
      [text("Enter"), text("Take this part")],
    ],
  },
]);

/** On a Mac the key is another. */
const keyName = (keys: string): string => (/Mac/.test(navigator.userAgent) ? keys.replace("Ctrl", "⌘") : keys);

/** The keys of the workbench on one sheet. */
export function Shortcuts({ onClose }: { onClose: () => void }) {
  return (
    <Dialog open onClose={onClose} maxWidth="sm" fullWidth aria-labelledby="shortcuts-title">
      <DialogTitle id="shortcuts-title">{t("Keyboard shortcuts")}</DialogTitle>
      <DialogContent sx={{ px: "22px" }} className="shortcuts">
        {shortcuts.map(({ where, keys }) => (
          <section key={where} aria-label={where}>
            <h3>{where}</h3>
            <dl>
              {keys.map(([key, does]) => (
                <div key={key}>
                  <dt>
                    <kbd>{keyName(key)}</kbd>
                  </dt>
                  <dd>{does}</dd>
                </div>
              ))}
            </dl>
          </section>
        ))}
      </DialogContent>
      <DialogActions sx={{ px: "22px", pb: 4 }}>
        <Button onClick={onClose}>{t("Close")}</Button>
      </DialogActions>
    </Dialog>
  );
}
