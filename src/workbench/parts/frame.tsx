"use client";
import { ThemeProvider } from "@mui/material/styles";
import { QueryClientProvider } from "@tanstack/react-query";
import { SnackbarProvider } from "notistack";
import { useEffect, useState } from "react";
import type { Language } from "@/core/messages/languages";
import { earlyScript, endEarly } from "@/script/early";
import { themeIn } from "../theme";
import { makeAsker } from "./asker";
import { Spoken } from "./spoken";

/** From here on what is pressed is heard: what was pressed before is done now. */
function Awake({ children }: { children: React.ReactNode }) {
  useEffect(endEarly, []);
  return children;
}

interface Props {
  nonce: string;
  /** The language of whoever reads it. */
  language: Language;
  children: React.ReactNode;
}

/** What every screen stands in: theme, messages, and what was asked of the server. `nonce` lets the styles that are made on the way in. */
export function Frame({ nonce, language, children }: Props) {
  const [asker] = useState(makeAsker);
  const [theme] = useState(() => themeIn(language));
  return (
    // Which theme it is says an attribute of the document before anything is drawn: nothing is drawn anew for it (noSsr).
    <ThemeProvider theme={theme} defaultMode="system" noSsr>
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
        <QueryClientProvider client={asker}>
          <Spoken language={language}>
            <Awake>{children}</Awake>
          </Spoken>
        </QueryClientProvider>
      </SnackbarProvider>
    </ThemeProvider>
  );
}
