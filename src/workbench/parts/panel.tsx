"use client";
import { t } from "@/core/messages/t";
import Button from "@mui/material/Button";
import { ErrorBoundary } from "react-error-boundary";

interface Props {
  /** What it is, as a heading: "The page". */
  name: string;
  /** What it shows: should that change, it is tried anew. */
  of?: readonly unknown[];
  children: React.ReactNode;
}

/** A part of a screen that may fail without taking the rest along: it says so, and is tried anew when what it shows changes. */
export function Panel({ name, of = [], children }: Props) {
  return (
    <ErrorBoundary
      resetKeys={[...of]}
      onError={(error) => console.error(t("{name} could not be shown", { name }), error)}
      fallbackRender={({ resetErrorBoundary }) => (
        <section className="failed" role="alert" aria-label={name}>
          <h2>{t("{name} could not be shown", { name })}</h2>
          <p>{t("Everything else works, and your draft is safe. Undo your last change, or try again.")}</p>
          <Button variant="contained" onClick={resetErrorBoundary}>
            {t("Try again")}
          </Button>
        </section>
      )}
    >
      {children}
    </ErrorBoundary>
  );
}
