"use client";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import { useEntering } from "./use-entering";

/** Address and password. */
export function SignInForm({ email: given = "", onIn }: { email?: string; onIn: () => void }) {
  const [email, setEmail] = useState(given);
  const [password, setPassword] = useState("");
  const { ask, busy, problem } = useEntering(onIn);
  return (
    <form
      className="stack"
      onSubmit={(event) => {
        event.preventDefault();
        ask({ email, password });
      }}
    >
      <TextField
        label="E-mail address"
        type="email"
        autoComplete="username"
        required
        autoFocus={!given}
        value={email}
        onChange={(event) => setEmail(event.target.value)}
      />
      <TextField
        label="Password"
        type="password"
        autoComplete="current-password"
        required
        autoFocus={!!given}
        value={password}
        onChange={(event) => setPassword(event.target.value)}
      />
      {problem && (
        <span className="error" role="alert">
          {problem}
        </span>
      )}
      <Button type="submit" variant="contained" disabled={busy}>
        {busy ? "Signing in …" : "Sign in"}
      </Button>
    </form>
  );
}
