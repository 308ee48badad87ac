"use client";
import { t } from "@/core/messages/t";
import IconButton from "@mui/material/IconButton";
import { Trash2 } from "lucide-react";
import { hostProblem } from "@/core/formats/origin";
import { whyNot } from "../parts/actions";
import { useDesk } from "../parts/desk/desk";
import { AddLine } from "./add-line";
import { Section } from "./section";

/** Hosts beside the site's own that redirects may lead to, and whose pages pop-ups may show in a frame. */
export function OtherHosts() {
  const { otherHosts, setOtherHosts, actions } = useDesk();
  const save = async (next: string[]): Promise<string | undefined> => {
    const wrong = await actions.allowHosts(next).catch(whyNot);
    if (!wrong) setOtherHosts(next);
    return wrong;
  };
  return (
    <Section
      title={t("Other hosts")}
      says={t(
        "Redirects lead, and pop-ups show pages in a frame, on these hosts only, beside the site itself. Holds at once, also for what is live.",
      )}
    >
      {otherHosts.length === 0 && <span className="quiet">{t("None: visitors are sent nowhere else.")}</span>}
      {otherHosts.map((host) => (
        <div key={host} className="row line">
          <code style={{ flex: 1 }}>{host}</code>
          <IconButton
            aria-label={t("Remove {host}", { host })}
            onClick={() => void save(otherHosts.filter((item) => item !== host))}
          >
            <Trash2 size={14} />
          </IconButton>
        </div>
      ))}
      <AddLine
        label={t("Another host")}
        placeholder="help.example.com"
        problem={(text) => (otherHosts.includes(text) ? t("It is in the list already") : hostProblem(text))}
        onAdd={(text) => save([...otherHosts, text])}
      />
    </Section>
  );
}
