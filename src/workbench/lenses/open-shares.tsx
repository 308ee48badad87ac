"use client";
import { t } from "@/core/messages/t";
import Button from "@mui/material/Button";
import { useSnackbar } from "notistack";
import { useEffect } from "react";
import { useAsked } from "../parts/asked";
import { useDesk } from "../parts/desk/desk";
import { timeWords } from "../parts/times";

/** The links that are open, whoever made them: anybody of the site ends one. */
export function OpenShares() {
  const { actions, ruleset } = useDesk();
  const { enqueueSnackbar } = useSnackbar();
  const { value: list = [], problem, again: read } = useAsked("shares", []);
  useEffect(() => {
    if (problem) enqueueSnackbar(t("The links that are open could not be read."), { variant: "error" });
  }, [problem, enqueueSnackbar]);
  if (list.length === 0) return null;
  const end = (id: string, title: string) =>
    actions.unshare(id).then(
      () => {
        enqueueSnackbar(t("The link of “{title}” is ended", { title }));
        return read();
      },
      () => enqueueSnackbar(t("The server could not be reached. The link goes on."), { variant: "error" }),
    );
  return (
    <section className="stack openshares" aria-label={t("Open links")}>
      <h3>{t("Open links")}</h3>
      <ul className="plain">
        {list.map(({ id, title, by, expiresAt }) => (
          <li key={id} className="row">
            <span style={{ flex: 1 }}>
              {title}
              <span className="quiet">
                {t("{by}, until {timeWords}", {
                  by: by ? t(", by {by}", { by }) : "",
                  timeWords: timeWords(expiresAt, ruleset.site.zone),
                })}
              </span>
            </span>
            <Button
              color="error"
              aria-label={t("End the link of {title}", { title })}
              onClick={() => void end(id, title)}
            >
              {t("End")}
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}
