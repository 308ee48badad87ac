"use client";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useState, type ReactNode } from "react";

interface Props {
  /** The address, if it is known already. */
  given?: string;
  /** The password is a new one. */
  fresh?: boolean;
  button: string;
  busy: boolean;
  problem: string | undefined;
  onEnter: (email: string, password: string) => void;
  /** What stands above the address. */
  children?: ReactNode;
  /** What stands below the password. */
  after?: ReactNode;
}

/** E-mail address and password, and what is wrong with them. */
export function CredentialsForm({ given = "", fresh = false, button, busy, problem, onEnter, children, after }: Props) {
  const [email, setEmail] = useState(given);
  const [password, setPassword] = useState("");
  return (
    <form
      className="stack"
      onSubmit={(event) => {
        event.preventDefault();
        onEnter(email, password);
      }}
    >
      {children}
      <TextField
        label="E-mail address"
        type="email"
        autoComplete="username"
        required
        autoFocus={!fresh && !given}
        value={email}
        onChange={(event) => setEmail(event.target.value)}
      />
      <TextField
        label="Password"
        type="password"
        autoComplete={fresh ? "new-password" : "current-password"}
        required
        autoFocus={!fresh && !!given}
        helperText={fresh ? "At least 10 characters: a sentence is easy to remember." : undefined}
        value={password}
        onChange={(event) => setPassword(event.target.value)}
      />
      {after}
      {problem && (
        <span className="error" role="alert">
          {problem}
        </span>
      )}
      <Button type="submit" variant="contained" disabled={busy}>
        {button}
      </Button>
    </form>
  );
}
