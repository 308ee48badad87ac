"use client";
import { ThemeProvider } from "@mui/material/styles";
import { SnackbarProvider } from "notistack";
import { theme } from "../theme";

/** What every screen stands in: theme and messages. */
export function Frame({ children }: { children: React.ReactNode }) {
  return (
    <ThemeProvider theme={theme}>
      <SnackbarProvider maxSnack={3} autoHideDuration={5000} anchorOrigin={{ vertical: "bottom", horizontal: "left" }}>
        {children}
      </SnackbarProvider>
    </ThemeProvider>
  );
}
