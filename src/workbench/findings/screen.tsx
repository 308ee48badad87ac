"use client";
import { said, t, text } from "@/core/messages/t";
import Button from "@mui/material/Button";
import LinearProgress from "@mui/material/LinearProgress";
import { useSnackbar } from "notistack";
import { useMemo } from "react";
import { isFault, standingOf, type Finding } from "@/core/analysis/findings";
import { useDesk } from "../parts/desk/desk";
import { variantAddress } from "../parts/desk/screens";
import { useGo } from "../parts/desk/use-go";
import { ownerAddress } from "../parts/lists/used-by";
import { DataTable } from "../parts/table/data-table";
import type { Column } from "../parts/table/table-view";
import { DriftList } from "./drift-list";
import { titles } from "./titles";

const standings = said({
  proven: text("Proven over everything that a visit can be"),
  found: text("There is a visit that shows it"),
  "not found": text("None was found among the visits that were tried: no proof that there is none"),
});
const rank = (item: Finding) => (isFault(item) ? 0 : item.finding === "overlap" ? 2 : 1);

interface Row {
  id: string;
  item: Finding;
  /** The slot, or the kind of thing, that it is about. */
  where: string;
  to: string | undefined;
}

const addressOf = (item: Finding): string | undefined =>
  item.variant
    ? variantAddress(item.slot ?? "", item.variant)
    : item.slot
      ? variantAddress(item.slot)
      : item.about && ownerAddress({ kind: item.about.kind, id: item.about.id, name: "" });

/** What the analysis found in the draft, faults first, each with a visitor to look through where there is one. */
export function FindingsScreen() {
  const { findings, look, ruleset } = useDesk();
  const go = useGo();
  const { enqueueSnackbar } = useSnackbar();
  const { list } = findings;
  const rows = useMemo((): Row[] => {
    const names = new Map(ruleset.slots.map((slot) => [slot.id, slot.name]));
    const kinds = new Map<string, number>();
    return [...list]
      .sort((a, b) => rank(a) - rank(b))
      .map((item) => {
        const key = [item.finding, item.slot, item.variant, item.other, item.about?.id].join(" ");
        const number = kinds.get(key) ?? 0;
        kinds.set(key, number + 1);
        const about = item.about?.kind ?? "site";
        const kind = about.charAt(0).toUpperCase() + about.slice(1);
        return {
          id: `${key} ${number}`,
          item,
          where: item.slot === undefined ? kind : (names.get(item.slot) ?? item.slot),
          to: addressOf(item),
        };
      });
  }, [list, ruleset.slots]);
  const { setVisit } = look;
  const columns = useMemo(
    (): Column<Row>[] => [
      {
        id: "kind",
        name: t("Finding"),
        share: 1.2,
        few: true,
        value: ({ item }) => titles[item.finding],
        cell: ({ item }) => <b className={isFault(item) ? "no" : "unsure"}>{titles[item.finding]}</b>,
      },
      {
        id: "weight",
        name: t("Weight"),
        share: 0.6,
        few: true,
        value: ({ item }) => (isFault(item) ? t("Fault") : t("Remark")),
      },
      { id: "where", name: t("Where"), few: true, value: ({ where }) => where },
      {
        id: "says",
        name: t("What"),
        share: 3.4,
        value: ({ item }) => item.says,
        cell: ({ item }) => <span className="rule">{item.says}</span>,
      },
      {
        id: "standing",
        name: t("How sure"),
        share: 0.7,
        few: true,
        value: ({ item }) => standingOf(item),
        cell: ({ item }) => (
          <span className="quiet" title={standings[standingOf(item)]}>
            {standingOf(item)}
          </span>
        ),
      },
      {
        id: "ways",
        name: t("Look"),
        share: 1.6,
        value: ({ item }) => (item.witness ? 0 : 1),
        cell: ({ item, to }) => (
          <span className="row">
            {item.witness && (
              <Button
                color="secondary"
                onClick={() => {
                  if (!item.witness) return;
                  setVisit(item.witness);
                  enqueueSnackbar(t("You are viewing as such a visitor"));
                  go(item.slot ? variantAddress(item.slot) : "/pages");
                }}
              >
                {t("View as this visitor")}
              </Button>
            )}
            {to && <Button onClick={() => go(to)}>{t("Open")}</Button>}
          </span>
        ),
      },
    ],
    [enqueueSnackbar, go, setVisit],
  );
  const faults = list.filter((item) => isFault(item)).length;
  const running = findings.share < 1 && !findings.stopped;
  const remarks = list.length - faults;
  const counts = `${faults} ${faults === 1 ? "fault" : "faults"}, ${remarks} ${remarks === 1 ? "remark" : "remarks"}`;
  return (
    <main className="tablescreen">
      <div className="row">
        <h1>{t("Findings")}</h1>
        <span className="quiet" role="status">
          {running
            ? t("Checking the draft: {share} %", { share: Math.round(findings.share * 100) })
            : `${list.length === 0 ? t("Nothing odd was found in the draft") : counts}${findings.stopped ? t(", stopped") : ""}`}
        </span>
        {running ? (
          <Button onClick={findings.stop}>{t("Stop")}</Button>
        ) : (
          <Button onClick={findings.again}>{t("Run again")}</Button>
        )}
      </div>
      {running && (
        <LinearProgress
          variant="determinate"
          aria-label={t("Checking the draft")}
          value={findings.share * 100}
          sx={{ mx: 6, mb: 2, height: 3, borderRadius: 2, flex: "none" }}
        />
      )}
      <div className="above findings">
        <DriftList />
      </div>
      <DataTable
        name={t("Findings")}
        noun={[t("finding"), t("findings")]}
        rows={rows}
        columns={columns}
        idOf={({ id }) => id}
        nameOf={({ item }) => titles[item.finding]}
        markOf={({ item }) => item.finding}
        teaches={
          running
            ? t("Being looked for …")
            : t(
                "Every variant of {site} can be seen by someone, no window is closed for ever, and no promise stands alone.",
                { site: ruleset.site.name },
              )
        }
      />
    </main>
  );
}
