"use client";
import { t } from "@/core/messages/t";
import Button from "@mui/material/Button";
import IconButton from "@mui/material/IconButton";
import { Trash2 } from "lucide-react";
import { useSnackbar } from "notistack";
import { useState } from "react";
import { fromWords, kindOfSignal, nameOfSignal } from "@/core/collect/sources";
import type { Edit } from "@/core/draft/edit";
import type { Collect } from "@/core/formats/collect";
import type { Suggestion } from "@/server/types";
import { whyNot } from "../parts/actions";
import { CollectSignal } from "../parts/collect/fields";
import { ReadOnPages } from "../parts/collect/on-pages";
import { PlaceForm } from "../parts/collect/place-form";
import { valueWords } from "../parts/collect/words";
import { useDesk } from "../parts/desk/desk";
import { To } from "../parts/desk/site-address";
import { Section } from "./section";

/** What is read from the site's pages: facts, cart and data, from where they stand or by open standards. */
export function Collected() {
  const { ruleset, draft, actions, lists, may } = useDesk();
  const { enqueueSnackbar } = useSnackbar();
  const { collect } = ruleset;
  const mayEdit = may("slots");
  const set = (after: Collect[], says: string, more: Edit[] = []) =>
    draft.edit(says, [...more, { do: "set", at: ["collect"], before: collect, after }]);
  const readAgain = () =>
    actions.readFacts().then(
      () => {
        lists.again("pages");
        enqueueSnackbar(t("Title and facts of the pages were read anew"));
      },
      (error: unknown) => enqueueSnackbar(whyNot(error), { variant: "error" }),
    );
  const keyOf = (entry: Collect) => JSON.stringify([entry.signal, entry.from]);
  return (
    <Section
      title={t("What pages tell")}
      says={t(
        "The cart’s value, a page’s category, data of your own: read from where they stand on the page, so that rules can ask for them without a developer. What a page tells outright comes first. A cart told by a page is good for messages; prices are never made of it.",
      )}
    >
      {collect.length === 0 && <span className="quiet">{t("Nothing is read from pages yet.")}</span>}
      {collect.map((entry) => (
        <div key={keyOf(entry)} className="row line" style={{ alignItems: "flex-start" }}>
          <span className="stack" style={{ flex: 1, gap: 2 }}>
            <b>{nameOfSignal(entry.signal, ruleset)}</b>
            <span className="quiet" style={{ overflowWrap: "anywhere" }}>
              {fromWords(entry)}
            </span>
            <ReadOnPages entry={entry} />
          </span>
          {mayEdit && (
            <IconButton
              aria-label={t("Stop reading {nameOfSignal} {entry}", {
                nameOfSignal: nameOfSignal(entry.signal, ruleset),
                entry: fromWords(entry),
              })}
              onClick={() =>
                set(
                  collect.filter((item) => item !== entry),
                  t("{nameOfSignal} is no longer read {entry}", {
                    nameOfSignal: nameOfSignal(entry.signal, ruleset),
                    entry: fromWords(entry),
                  }),
                )
              }
            >
              <Trash2 size={14} />
            </IconButton>
          )}
        </div>
      ))}
      <div className="row" style={{ flexWrap: "wrap" }}>
        <Button component={To} href="/pages?point=value">
          {t("Point at a value on the page")}
        </Button>
        {mayEdit && collect.length > 0 && <Button onClick={() => void readAgain()}>{t("Read pages again")}</Button>}
      </div>
      {mayEdit && (
        <>
          <Suggestions
            onUse={(entry, field) => {
              const more: Edit[] = field
                ? [{ do: "set", at: ["dataFields"], before: ruleset.dataFields, after: [...ruleset.dataFields, field] }]
                : [];
              set(
                [...collect, entry],
                t("{nameOfSignal} is read from pages", { nameOfSignal: nameOfSignal(entry.signal, ruleset) }),
                more,
              );
            }}
          />
          <ByHand
            onAdd={(entry) =>
              set(
                [...collect, entry],
                t("{nameOfSignal} is read from pages", { nameOfSignal: nameOfSignal(entry.signal, ruleset) }),
              )
            }
          />
        </>
      )}
    </Section>
  );
}

/** What the pages tell by open standards already. */
function Suggestions({ onUse }: { onUse: (entry: Collect, field: Suggestion["field"]) => void }) {
  const { actions, ruleset, may } = useDesk();
  const [found, setFound] = useState<readonly Suggestion[]>();
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string>();
  const look = () => {
    setBusy(true);
    setProblem(undefined);
    void actions
      .suggestCollect()
      .then(setFound, (error: unknown) => setProblem(whyNot(error)))
      .finally(() => setBusy(false));
  };
  const left = found?.filter(({ entry }) => !ruleset.collect.some(({ signal }) => signal === entry.signal));
  return (
    <div className="stack">
      <div className="row">
        <Button disabled={busy} onClick={look}>
          {busy ? t("Looking …") : t("Look for what the pages tell by open standards")}
        </Button>
      </div>
      {problem && <span className="error">{problem}</span>}
      {left?.length === 0 && (
        <span role="status" className="quiet">
          {t(
            "Nothing more was found. Pages tell by open standards with linked data (JSON-LD) or microdata of schema.org, and metadata.",
          )}
        </span>
      )}
      {left?.map(({ entry, field, pages, such }) => {
        const name = field ? t("{field}, of the page", { field: field.name }) : nameOfSignal(entry.signal, ruleset);
        return (
          <div key={entry.signal} className="row line">
            <span style={{ flex: 1 }}>
              <b>{name}</b> <span className="quiet">{fromWords(entry)}</span>
              <br />
              {such.map((value) => valueWords(entry.signal, value, ruleset.site)).join(", ")}{" "}
              <span className="quiet">{t("on {pages, plural, one {# page} other {# pages}}", { pages })}</span>
            </span>
            <Button disabled={field !== undefined && !may("build")} onClick={() => onUse(entry, field)}>
              {t("Read it")}
            </Button>
          </div>
        );
      })}
    </div>
  );
}

/** An entry by hand: for whoever knows the pages' code. */
function ByHand({ onAdd }: { onAdd: (entry: Collect) => void }) {
  const { ruleset } = useDesk();
  const [signal, setSignal] = useState("cart.subtotal");
  const kind = kindOfSignal(signal, ruleset);
  const lacksValue = signal === "cart.count" && !ruleset.collect.some((item) => item.signal === "cart.subtotal");
  return (
    <PlaceForm
      counts={kind === "number" || kind === "money"}
      blocked={lacksValue ? t("A cart is known by its value: say first where that stands.") : undefined}
      onAdd={(from, decimal) => onAdd({ signal, from, ...decimal })}
    >
      <CollectSignal label={t("What it tells")} value={signal} onChange={setSignal} />
    </PlaceForm>
  );
}
