"use client";
import { t } from "@/core/messages/t";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useRef, useState, type ReactNode } from "react";
import { passwordProblem, shortestPassword } from "@/core/people/password";

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
  const [refused, setRefused] = useState<string>();
  const field = useRef<HTMLInputElement>(null);
  return (
    <form
      className="stack"
      onSubmit={(event) => {
        event.preventDefault();
        const wrong = fresh ? passwordProblem(password) : undefined;
        setRefused(wrong);
        if (wrong) field.current?.focus();
        else onEnter(email, password);
      }}
    >
      {children}
      <TextField
        label={t("E-mail address")}
        type="email"
        autoComplete="username"
        required
        autoFocus={!fresh && !given}
        value={email}
        onChange={(event) => setEmail(event.target.value)}
      />
      <TextField
        label={t("Password")}
        type="password"
        autoComplete={fresh ? "new-password" : "current-password"}
        required
        autoFocus={!fresh && !!given}
        inputRef={field}
        error={refused !== undefined}
        helperText={
          refused ??
          (fresh
            ? t("At least {shortestPassword} characters: a sentence is easy to remember.", { shortestPassword })
            : undefined)
        }
        value={password}
        onChange={(event) => {
          setPassword(event.target.value);
          setRefused(undefined);
        }}
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
