"use client";
import { t } from "@/core/messages/t";
import Autocomplete from "@mui/material/Autocomplete";
import FormControlLabel from "@mui/material/FormControlLabel";
import InputAdornment from "@mui/material/InputAdornment";
import MenuItem from "@mui/material/MenuItem";
import Switch from "@mui/material/Switch";
import TextField from "@mui/material/TextField";
import { useMemo } from "react";
import { toMinor } from "@/core/money/currency";
import { followLabel, followThreshold } from "@/core/draft/cart-messages";
import type { Offer } from "@/core/formats/ruleset";
import { offerForbidden } from "@/core/ruleset/check";
import { usesOf } from "@/core/ruleset/uses";
import { useDesk, useNeeded } from "../parts/desk/desk";
import { useRuleTrace } from "../parts/desk/use-rule-trace";
import { Field } from "../parts/field";
import { NameRow } from "../parts/lists/name-row";
import { UsedBy } from "../parts/lists/used-by";
import { LocalField } from "../parts/dates/date-field";
import { RuleEditor } from "../parts/rule-editor/rule-editor";
import { Account } from "./account";
import { Messages } from "./messages";

interface Props {
  offer: Offer;
  set: <K extends keyof Offer & string>(offer: Offer, key: K, value: Offer[K] | undefined, says: string) => void;
}
const refused = (signal: string): boolean => offerForbidden(signal) !== undefined;

/** One offer: what it gives, from when on, to whom; its messages; and what it makes of a cart. */
export function OfferEditor({ offer, set }: Props) {
  useNeeded("products");
  const { ruleset, draft, products } = useDesk();
  const trace = useRuleTrace();
  const { currency } = ruleset.site;
  const { reward } = offer;
  const kind = "percent" in reward ? "percent" : "amount" in reward ? "amount" : "freeDelivery";
  const amount = (least: string) => (text: string) => {
    const minor = toMinor(text.trim(), currency);
    return minor === undefined || minor <= 0
      ? t("An amount above 0, such as {least}, in {currency}", { least, currency })
      : undefined;
  };
  const money = { input: { startAdornment: <InputAdornment position="start">{currency}</InputAdornment> } };
  const categories = [...new Set(products.map((item) => item.category))];
  const scope = useMemo(
    () => [
      ...(offer.scope?.categories ?? []).map((name) => ({ kind: "categories" as const, name })),
      ...(offer.scope?.skus ?? []).map((name) => ({ kind: "skus" as const, name })),
    ],
    [offer.scope],
  );
  const choices = [
    ...categories.map((name) => ({ kind: "categories" as const, name })),
    ...products.map((item) => ({ kind: "skus" as const, name: item.sku })),
  ];
  return (
    <div className="form wide">
      <NameRow
        name={offer.name}
        onName={(name) => set(offer, "name", name, t("Offer {offer} renamed", { offer: offer.name }))}
        on={offer.on}
        onSwitch={(on) =>
          set(offer, "on", on, t("Offer {offer} switched {on}", { offer: offer.name, on: on ? t("on") : t("off") }))
        }
      />
      <Field
        label={t("Label, as visitors read it in the cart")}
        value={offer.label}
        problem={(label) => (label.trim() === "" ? t("Say it in a few words: visitors read it") : undefined)}
        onCommit={(label) =>
          draft.edit(t("Label of {offer}", { offer: offer.name }), [
            { do: "set", at: ["offers", offer.id, "label"], before: offer.label, after: label },
            ...followLabel(offer, label, ruleset),
          ])
        }
      />
      <div className="row" style={{ alignItems: "flex-start" }}>
        <TextField
          select
          label={t("Gives")}
          value={kind}
          onChange={(event) => {
            const next: Offer["reward"] =
              event.target.value === "percent"
                ? { percent: 10 }
                : event.target.value === "amount"
                  ? { amount: "5" }
                  : { freeDelivery: true };
            set(offer, "reward", next, t("What {offer} gives", { offer: offer.name }));
          }}
        >
          <MenuItem value="percent">{t("Percentage off")}</MenuItem>
          <MenuItem value="amount">{t("Amount off")}</MenuItem>
          <MenuItem value="freeDelivery">{t("free delivery")}</MenuItem>
        </TextField>
        {"percent" in reward && (
          <Field
            label={t("Percentage")}
            value={String(reward.percent)}
            problem={(text) =>
              /^\d{1,3}(\.\d{1,2})?$/.test(text) && Number(text) > 0 && Number(text) <= 100
                ? undefined
                : t("Above 0 and at most 100, with at most two decimals")
            }
            onCommit={(text) =>
              set(offer, "reward", { percent: Number(text) }, t("What {offer} gives", { offer: offer.name }))
            }
            slotProps={{ input: { endAdornment: <InputAdornment position="end">%</InputAdornment> } }}
          />
        )}
        {"amount" in reward && (
          <Field
            label={t("Amount")}
            value={reward.amount}
            problem={amount("5.00")}
            onCommit={(text) =>
              set(offer, "reward", { amount: text.trim() }, t("What {offer} gives", { offer: offer.name }))
            }
            slotProps={money}
          />
        )}
        <Field
          label={t("Minimum cart value")}
          placeholder={t("no threshold")}
          value={offer.threshold ?? ""}
          problem={(text) => (text.trim() === "" ? undefined : amount("60.00")(text))}
          onCommit={(text) => {
            const after = text.trim() || undefined;
            draft.edit(t("Threshold of {offer}", { offer: offer.name }), [
              { do: "set", at: ["offers", offer.id, "threshold"], before: offer.threshold, after },
              ...followThreshold(offer, after, ruleset),
            ]);
          }}
          slotProps={money}
        />
      </div>
      <Autocomplete
        multiple
        openOnFocus
        filterSelectedOptions
        options={choices}
        value={scope}
        groupBy={(item) => (item.kind === "categories" ? t("Categories") : t("Products"))}
        getOptionLabel={(item) =>
          products.find((one) => item.kind === "skus" && one.sku === item.name)?.name ?? item.name
        }
        isOptionEqualToValue={(a, b) => a.kind === b.kind && a.name === b.name}
        onChange={(_, next) => {
          const of = (what: "categories" | "skus") =>
            next.filter((item) => item.kind === what).map((item) => item.name);
          const [inCategories, skus] = [of("categories"), of("skus")];
          set(
            offer,
            "scope",
            next.length === 0
              ? undefined
              : {
                  ...(inCategories.length > 0 ? { categories: inCategories } : {}),
                  ...(skus.length > 0 ? { skus } : {}),
                },
            t("Scope of {offer}", { offer: offer.name }),
          );
        }}
        renderInput={(input) => (
          <TextField
            {...input}
            label={t("Applies to")}
            placeholder={scope.length === 0 ? t("the whole cart") : undefined}
            helperText={t("Only these count towards the minimum, and only these are reduced")}
          />
        )}
      />
      <FormControlLabel
        control={
          <Switch
            checked={offer.combines}
            onChange={(event) =>
              set(offer, "combines", event.target.checked, t("Combination of {offer}", { offer: offer.name }))
            }
          />
        }
        label={
          offer.combines
            ? t("Can be combined")
            : t("Cannot be combined: only if no other offer has applied, and none after it")
        }
      />
      <div className="row" style={{ alignItems: "flex-start" }}>
        <LocalField
          label={t("From")}
          value={offer.from}
          before={offer.until}
          onCommit={(value) => set(offer, "from", value, t("Dates of {offer}", { offer: offer.name }))}
        />
        <LocalField
          label={t("Until")}
          value={offer.until}
          after={offer.from}
          onCommit={(value) => set(offer, "until", value, t("Dates of {offer}", { offer: offer.name }))}
        />
      </div>
      <h3>{t("For whom")}</h3>
      <RuleEditor
        rule={offer.rule}
        at={["offers", offer.id, "rule"]}
        says={t("Rule of offer {offer}", { offer: offer.name })}
        trace={offer.rule === null ? undefined : trace(offer.rule)}
        refused={refused}
        empty={t("For everyone. Add a condition to give it to some only.")}
      />
      <h3>{t("Messages that say how much is missing")}</h3>
      <Messages offer={offer} />
      <h3>{t("On this cart")}</h3>
      <Account offer={offer} />
      <UsedBy uses={usesOf({ offer: offer.id }, ruleset)} />
    </div>
  );
}
