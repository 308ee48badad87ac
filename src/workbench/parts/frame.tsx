"use client";
import { ThemeProvider } from "@mui/material/styles";
import { SnackbarProvider } from "notistack";
import { useEffect } from "react";
import { earlyScript, endEarly } from "@/script/early";
import { theme } from "../theme";

/** What every screen stands in: theme and messages. `nonce` lets the styles that are made on the way in. */
export function Frame({ nonce, children }: { nonce: string; children: React.ReactNode }) {
  useEffect(endEarly, []);
  return (
    <ThemeProvider theme={theme}>
      {/* The messages' styles come from a package that asks for the nonce here, as soon as it is loaded. */}
      <script
        nonce={nonce}
        suppressHydrationWarning
        dangerouslySetInnerHTML={{ __html: `window.__nonce__=${JSON.stringify(nonce)};${earlyScript}` }}
      />
      <SnackbarProvider
        preventDuplicate
        maxSnack={3}
        autoHideDuration={5000}
        anchorOrigin={{ vertical: "bottom", horizontal: "left" }}
      >
        {children}
      </SnackbarProvider>
    </ThemeProvider>
  );
}
