"use client";
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
      onError={(error) => console.error(`${name} could not be shown`, error)}
      fallbackRender={({ resetErrorBoundary }) => (
        <section className="failed" role="alert" aria-label={name}>
          <h2>{name} could not be shown</h2>
          <p>Everything else works, and your draft is safe. Undo your last change, or try again.</p>
          <Button variant="contained" onClick={resetErrorBoundary}>
            Try again
          </Button>
        </section>
      )}
    >
      {children}
    </ErrorBoundary>
  );
}
