import { t } from "@/core/messages/t";
import { Mark } from "./mark";

/** What stands where one would sign in, while nobody can: how the installation is set up. */
export function NotSetUp() {
  return (
    <main className="door">
      <section>
        <h1>
          <Mark /> Mirada
        </h1>
        <p>{t("This installation has not been set up yet, so you cannot sign in.")}</p>
        <p className="quiet">
          {t(
            "When it was started, it printed a link, which is good once and for an hour. Start it again for another, or ask for one on its machine:",
          )}
        </p>
        <code>npm run -s mirada -- set-up-link https://mirada.example.com</code>
      </section>
    </main>
  );
}
