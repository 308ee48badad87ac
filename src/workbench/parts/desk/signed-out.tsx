"use client";
import { t } from "@/core/messages/t";
import Dialog from "@mui/material/Dialog";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import { useEffect, useRef, useState } from "react";
import { SignInForm } from "../../door/sign-in-form";
import { onSignedOut } from "../actions";

/** Where a session has ended, one signs in again on the spot: what was being saved waits and goes on. */
export function SignedOut() {
  const [open, setOpen] = useState(false);
  const going = useRef<{ wait: Promise<void>; on: () => void }>(undefined);
  useEffect(() => {
    onSignedOut(() => {
      if (!going.current) {
        let on = () => undefined as void;
        const wait = new Promise<void>((resolve) => {
          on = resolve;
        });
        going.current = { wait, on };
        setOpen(true);
      }
      return going.current.wait;
    });
    return () => onSignedOut(undefined);
  }, []);
  return (
    <Dialog open={open} maxWidth="xs" fullWidth aria-labelledby="signed-out-title">
      <DialogTitle id="signed-out-title">{t("Sign in again")}</DialogTitle>
      <DialogContent className="stack" sx={{ px: "22px", pb: 5 }}>
        <span className="quiet">{t("Your session has ended. What you were doing waits here and goes on.")}</span>
        <SignInForm
          onIn={() => {
            setOpen(false);
            going.current?.on();
            going.current = undefined;
          }}
        />
      </DialogContent>
    </Dialog>
  );
}
