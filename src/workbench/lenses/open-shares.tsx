"use client";
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
    if (problem) enqueueSnackbar("The links that are open could not be read.", { variant: "error" });
  }, [problem, enqueueSnackbar]);
  if (list.length === 0) return null;
  const end = (id: string, title: string) =>
    actions.unshare(id).then(
      () => {
        enqueueSnackbar(`The link of “${title}” is ended`);
        return read();
      },
      () => enqueueSnackbar("The server could not be reached. The link goes on.", { variant: "error" }),
    );
  return (
    <section className="stack openshares" aria-label="Open links">
      <h3>Open links</h3>
      <ul className="plain">
        {list.map(({ id, title, by, expiresAt }) => (
          <li key={id} className="row">
            <span style={{ flex: 1 }}>
              {title}
              <span className="quiet">
                {by ? `, by ${by}` : ""}, until {timeWords(expiresAt, ruleset.site.zone)}
              </span>
            </span>
            <Button color="error" aria-label={`End the link of ${title}`} onClick={() => void end(id, title)}>
              End
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}
