"use client";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import { roleWords, type Role } from "@/core/people/roles";
import { goFresh } from "./enter";
import { useEntering } from "./use-entering";
import { Mark } from "./mark";

/** Takes up an invitation. */
export function Join({ token, invited }: { token: string; invited: { name: string; roles: Role[] } | undefined }) {
  const [name, setName] = useState(invited?.name ?? "");
  const [email, setEmail] = useState("");
  const [password, setPassword] = useState("");
  const { ask, busy, problem } = useEntering(() => goFresh("/"));
  return (
    <main className="door">
      <section>
        <h1>
          <Mark /> Mirada
        </h1>
        {invited ? (
          <form
            className="stack"
            onSubmit={(event) => {
              event.preventDefault();
              ask({ token, name, email, password });
            }}
          >
            <p>You are invited as {invited.roles.map((role) => `${role}: ${roleWords[role]}`).join("; ")}.</p>
            <TextField label="Your name" required value={name} onChange={(event) => setName(event.target.value)} />
            <TextField
              label="E-mail address"
              type="email"
              autoComplete="username"
              required
              value={email}
              onChange={(event) => setEmail(event.target.value)}
            />
            <TextField
              label="Password"
              type="password"
              autoComplete="new-password"
              required
              helperText="At least 10 characters: a sentence is easy to remember."
              value={password}
              onChange={(event) => setPassword(event.target.value)}
            />
            {problem && (
              <span className="error" role="alert">
                {problem}
              </span>
            )}
            <Button type="submit" variant="contained" disabled={busy}>
              Join
            </Button>
          </form>
        ) : (
          <p>This invitation was used already, or has expired. Ask whoever sent it for another.</p>
        )}
      </section>
    </main>
  );
}
