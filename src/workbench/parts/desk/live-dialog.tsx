"use client";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import type { Finding } from "@/core/analysis/findings";
import type { Difference } from "@/core/draft/difference";
import type { Problem } from "@/core/formats/problem";
import type { Ruleset } from "@/core/formats/ruleset";
import { addressOf, variantAddress } from "./screens";
import type { Actions } from "../actions";

interface Props {
  ruleset: Ruleset;
  version: number;
  saving: boolean;
  differences: readonly Difference[];
  problems: readonly Problem[];
  /** Faults that the analysis found: nothing of the kind goes live unnoticed. */
  faults: readonly Finding[];
  onClose: () => void;
  onLive: (number: number) => void;
  /** Goes to an address of the workbench. */
  onGo: (address: string) => void;
  actions: Pick<Actions, "putLive">;
}

/** What differs from what is live, in words; then it is made a release and served. */
export function LiveDialog({
  ruleset,
  version,
  saving,
  differences,
  problems,
  faults,
  onClose,
  onLive,
  onGo,
  actions,
}: Props) {
  const [note, setNote] = useState("");
  const [busy, setBusy] = useState(false);
  const [refusal, setRefusal] = useState<string>();
  const put = async () => {
    setBusy(true);
    const done = await actions.putLive({ site: ruleset.site.id, note: note.trim(), version }).catch(() => undefined);
    setBusy(false);
    if (done?.ok) onLive(done.number);
    else setRefusal(done?.problem ?? "The server could not be reached. Nothing went live.");
  };
  const ready = problems.length === 0 && differences.length > 0;
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm" aria-labelledby="live-title">
      <DialogTitle id="live-title">Put live</DialogTitle>
      <DialogContent className="stack" sx={{ px: "22px" }}>
        {problems.length > 0 && (
          <div className="stack" role="alert">
            <b className="no">Not everything is finished, so nothing can go live yet.</b>
            {problems.map((problem) => {
              const place = placeOf(ruleset, problem);
              return (
                <div key={problem.path} className="row">
                  <span className="error" style={{ flex: 1 }}>
                    {place.name}: {problem.problem}
                  </span>
                  {place.address && <Button onClick={() => onGo(place.address as string)}>Go there</Button>}
                </div>
              );
            })}
          </div>
        )}
        {differences.length === 0 ? (
          <span>The draft is the same as what is live. There is nothing to put live.</span>
        ) : (
          <>
            <span className="quiet">
              {differences.length === 1 ? "One thing differs" : `${differences.length} things differ`} from what
              visitors see now:
            </span>
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
                </div>
              ))}
            </div>
            {faults.length > 0 && (
              <div className="stack" role="note" aria-label="Faults that were found">
                <b className="no">
                  {faults.length === 1 ? "One fault was found" : `${faults.length} faults were found`} in the draft:
                </b>
                {faults.slice(0, 5).map((item, index) => (
                  <div key={index} className="row">
                    <span className="error" style={{ flex: 1 }}>
                      {item.says}
                    </span>
                  </div>
                ))}
                <div className="row">
                  <Button onClick={() => onGo("/findings")}>See the findings</Button>
                </div>
              </div>
            )}
            {problems.length === 0 && (
              <TextField
                label="Note for the release"
                value={note}
                onChange={(event) => setNote(event.target.value)}
                slotProps={{ htmlInput: { maxLength: 500 } }}
                sx={{ mt: 1 }}
              />
            )}
          </>
        )}
        {refusal && <span className="error">{refusal}</span>}
      </DialogContent>
      <DialogActions sx={{ px: "22px", pb: 4 }}>
        <Button onClick={onClose}>{ready ? "Not yet" : "Close"}</Button>
        {ready && (
          <Button variant="contained" color="success" disabled={busy || saving} onClick={() => void put()}>
            {saving ? "Saving the draft …" : faults.length > 0 ? "Put live all the same" : "Put live now"}
          </Button>
        )}
      </DialogActions>
    </Dialog>
  );
}

const listScreens: Record<string, string> = {
  audiences: "/audiences",
  placeLists: "/places",
  markers: "/markers",
  offers: "/offers",
  popups: "/popups",
  redirects: "/redirects",
};

/** Where a problem lies, by names, and the address at which it is mended. */
function placeOf(ruleset: Ruleset, problem: Problem): { name: string; address?: string } {
  const [list = "", index, part, inner] = problem.path.split("/").slice(1);
  const slot = list === "slots" ? ruleset.slots[Number(index)] : undefined;
  const variant = slot && part === "variants" ? slot.variants[Number(inner)] : undefined;
  if (slot && variant)
    return {
      name: `${slot.name}, ${variant.name}${problem.path.includes("/rule") ? ", its rule" : ""}`,
      address: variantAddress(slot.id, variant.id),
    };
  if (slot) return { name: slot.name, address: variantAddress(slot.id) };
  const items = (ruleset as unknown as Record<string, unknown>)[list];
  const item = Array.isArray(items) ? (items[Number(index)] as { id?: string; name?: string } | undefined) : undefined;
  const screen = listScreens[list];
  if (item?.id && screen) return { name: item.name ?? item.id, address: addressOf(screen, item.id) };
  return { name: "Settings", address: "/settings" };
}
