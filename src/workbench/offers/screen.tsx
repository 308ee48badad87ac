"use client";
import { t } from "@/core/messages/t";
import { toMajorText, toMinor } from "@/core/money/currency";
import type { Offer } from "@/core/formats/ruleset";
import { formatMoney } from "@/core/money/currency";
import { useDesk } from "../parts/desk/desk";
import { ListScreen } from "../parts/lists/list-screen";
import { useList } from "../parts/lists/use-list";
import { Verdict } from "../parts/verdict";
import { OfferEditor } from "./editor";

/** An offer in a few words: "10 % off ferns from €60.00". */
export function offerSays(offer: Offer, currency: string, language: string): string {
  const money = (amount: string) => formatMoney(toMinor(amount, currency) ?? 0, currency, language);
  const reward =
    "freeDelivery" in offer.reward
      ? t("free delivery")
      : "percent" in offer.reward
        ? t("{percent} % off", { percent: offer.reward.percent })
        : t("{amount} off", { amount: money(offer.reward.amount) });
  const scope = [...(offer.scope?.categories ?? []), ...(offer.scope?.skus ?? [])];
  return [
    reward,
    scope.length > 0 && t("on {scope}", { scope: scope.join(", ") }),
    offer.threshold !== undefined && t("from {threshold}", { threshold: money(offer.threshold) }),
    !offer.combines && t("(stands alone)"),
  ]
    .filter(Boolean)
    .join(" ");
}

/** Offers in order, each with what it does to the cart at hand. */
export function OffersScreen() {
  const { ruleset, look } = useDesk();
  const { currency, language } = ruleset.site;
  const list = useList("offers", t("Offer"), (offer) => ({ offer }));
  const found = new Map(look.decision.trace?.offers.map((item) => [item.id as string, item]));
  return (
    <ListScreen
      title={t("Offers")}
      teaches={t(
        "An offer takes something off the cart from a threshold on: a share, an amount, or the delivery. The cart, the checkout and every message about it go by the same rule, so what is promised is what is given.",
      )}
      adding={t("New offer")}
      note={t("Judged from first to last; later offers use the reduced total. Drag to change the order.")}
      list={list}
      row={(item) => {
        const step = found.get(item.id);
        return {
          dim: !item.on,
          says: offerSays(item, currency, language),
          verdict: step && (
            <Verdict kind="offer" verdict={step.verdict}>
              {step.verdict === "below threshold" &&
                t(": {formatMoney} to go", { formatMoney: formatMoney(step.toGo ?? 0, currency, language) })}
              {step.verdict === "applied" &&
                (step.discount ?? 0) > 0 &&
                `: −${formatMoney(step.discount ?? 0, currency, language)}`}
            </Verdict>
          ),
        };
      }}
      fresh={() => ({
        name: t("New offer"),
        on: false,
        rule: null,
        threshold: toMajorText(toMinor("50", currency) ?? 50, currency),
        reward: { percent: 10 },
        label: "10 % off",
        combines: true,
      })}
      ordered
    >
      {(item) => <OfferEditor offer={item} set={list.set} />}
    </ListScreen>
  );
}
