"use client";
import { t } from "@/core/messages/t";
import { roleWords, roles, type Role } from "@/core/people/roles";
import { goFresh } from "./enter";
import { Mark } from "./mark";
import { useEntering } from "./use-entering";
import { SignInForm } from "./sign-in-form";

interface Account {
  name: string;
  email: string;
  roles: Role[];
  password: string;
}

/** Where one signs in. The demo's accounts stand here with their passwords; one press is enough. */
export function SignIn({ to, accounts }: { to: string; accounts: readonly Account[] }) {
  const go = () => goFresh(to);
  const { ask, busy, problem } = useEntering(go);
  return (
    <main className="door">
      <section>
        <h1>
          <Mark /> Mirada
        </h1>
        <p className="quiet">{t("See your site through any visitor’s eyes, and know why it looks that way.")}</p>
        <SignInForm onIn={go} />
        <p className="quiet small">
          {t("New here? A developer of your site invites you by link, under Settings, People.")}
        </p>
      </section>
      {accounts.length > 0 && (
        <section aria-label={t("Accounts of the demo")}>
          <h2>{t("Look around as …")}</h2>
          <p className="quiet">
            {t("This is a demo with made-up accounts. An account with every role can try everything.")}
          </p>
          <ul className="accounts">
            {accounts.map((account) => (
              <li key={account.email}>
                <button
                  type="button"
                  disabled={busy}
                  onClick={() => ask({ email: account.email, password: account.password })}
                >
                  <b>{account.name}</b>
                  <span>
                    {account.roles.length === roles.length
                      ? t("has every role: makes, approves, builds")
                      : account.roles.map((role) => roleWords[role]).join("; ")}
                  </span>
                  <code>
                    {account.email} · {account.password}
                  </code>
                </button>
              </li>
            ))}
          </ul>
          {problem && (
            <span className="error" role="alert">
              {problem}
            </span>
          )}
        </section>
      )}
    </main>
  );
}
