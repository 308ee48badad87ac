"use client";
import { t } from "@/core/messages/t";
import Button from "@mui/material/Button";
import { useMemo } from "react";
import type { CampaignLink } from "@/core/campaigns/link";
import { linksToCsv } from "@/core/campaigns/sheet";
import { useDesk } from "../parts/desk/desk";
import { addressOf } from "../parts/desk/screens";
import { To } from "../parts/desk/site-address";
import { useKeep } from "../parts/desk/use-keep";
import { saveFile } from "../parts/files";
import { DataTable } from "../parts/table/data-table";
import type { Column } from "../parts/table/table-view";

const tagOf = (link: CampaignLink, name: string): string => link.tags.find((tag) => tag.name === name)?.value ?? "";

/** @param isOdd whether something of a link is spelled otherwise than elsewhere */
const columnsOf = (isOdd: (link: CampaignLink) => boolean): Column<CampaignLink>[] => [
  {
    id: "link",
    name: t("Link"),
    share: 1.6,
    value: (link) => link.name,
    cell: (link) => (
      <To href={addressOf("/links", link.id)}>
        <b>{link.name}</b>
      </To>
    ),
  },
  { id: "page", name: t("Page"), share: 1.4, value: (link) => link.path },
  { id: "source", name: t("Source"), few: true, value: (link) => tagOf(link, "utm_source") },
  { id: "medium", name: t("Medium"), few: true, value: (link) => tagOf(link, "utm_medium") },
  { id: "campaign", name: t("Campaign name"), few: true, value: (link) => tagOf(link, "utm_campaign") },
  { id: "used", name: t("Used by"), value: (link) => link.usedBy },
  {
    id: "spelling",
    name: t("Spelling"),
    share: 0.8,
    few: true,
    value: (link) => (isOdd(link) ? t("Otherwise elsewhere") : t("As elsewhere")),
    cell: (link) =>
      isOdd(link) ? (
        <span className="no">{t("Otherwise elsewhere")}</span>
      ) : (
        <span className="quiet">{t("As elsewhere")}</span>
      ),
  },
];

/** All links side by side, to be searched, compared, exported and deleted, several at a time. */
export function LinksTable({ isOdd }: { isOdd: (link: CampaignLink) => boolean }) {
  const { links, ruleset } = useDesk();
  const { dropAll } = useKeep("links");
  const columns = useMemo(() => {
    const odd = new Set(links.filter(isOdd).map((link) => link.id));
    return columnsOf((link) => odd.has(link.id));
  }, [links, isOdd]);
  return (
    <DataTable
      name={t("Links")}
      noun={[t("link"), t("links")]}
      rows={links}
      columns={columns}
      idOf={(link) => link.id}
      nameOf={(link) => link.name}
      teaches={t("There is no link yet. Make one under “List”.")}
      several={(chosen, done) => (
        <>
          <Button onClick={() => saveFile("links.csv", linksToCsv([...chosen], ruleset.site.origin), "text/csv")}>
            {t("Export CSV")}
          </Button>
          <Button
            onClick={() => {
              done();
              void dropAll(
                chosen,
                t("{chosen, plural, one {The link is deleted} other {# links are deleted}}", { chosen: chosen.length }),
              );
            }}
          >
            {t("Delete")}
          </Button>
        </>
      )}
    />
  );
}
