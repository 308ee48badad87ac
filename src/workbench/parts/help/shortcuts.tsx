"use client";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";

/** What keys do, by where they do it. */
const shortcuts: readonly { where: string; keys: readonly [keys: string, does: string][] }[] = [
  {
    where: "Everywhere",
    keys: [
      ["Ctrl K", "Go anywhere"],
      ["Ctrl Z", "Undo"],
      ["Ctrl Shift Z", "Redo"],
      ["?", "Show these shortcuts"],
      ["Esc", "Close what is open"],
    ],
  },
  {
    where: "On the ribbon",
    keys: [
      ["← →", "One hour earlier or later"],
      ["Shift ← →", "One day earlier or later"],
      ["Page Up, Page Down", "One day earlier or later"],
      ["+ −", "Zoom in or out"],
    ],
  },
  {
    where: "In a rule and in lists that have an order",
    keys: [
      ["↑ ↓", "Move the condition whose grip has the focus"],
      ["Space, then ↑ ↓", "Pick up a row by its grip, and move it"],
    ],
  },
  {
    where: "On the grid of hours",
    keys: [
      ["← → ↑ ↓", "Go to another hour"],
      ["Shift ← → ↑ ↓", "Draw"],
      ["Enter", "Take what is drawn"],
    ],
  },
  {
    where: "Pointing at a part of the page",
    keys: [
      ["↑ ↓", "Wider, narrower"],
      ["← →", "The part before, the part after"],
      ["Enter", "Take this part"],
    ],
  },
];

/** On a Mac the key is another. */
const keyName = (keys: string): string => (/Mac/.test(navigator.userAgent) ? keys.replace("Ctrl", "⌘") : keys);

/** The keys of the workbench on one sheet. */
export function Shortcuts({ onClose }: { onClose: () => void }) {
  return (
    <Dialog open onClose={onClose} maxWidth="sm" fullWidth aria-labelledby="shortcuts-title">
      <DialogTitle id="shortcuts-title">Keyboard shortcuts</DialogTitle>
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
        <Button onClick={onClose}>Close</Button>
      </DialogActions>
    </Dialog>
  );
}
