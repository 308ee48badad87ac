"use client";
import { t } from "@/core/messages/t";
import dynamic from "next/dynamic";
import { useMemo } from "react";
import { accountOf, reckoner } from "@/core/cart/account";
import { formatMoney } from "@/core/money/currency";
import type { Offer } from "@/core/formats/ruleset";
import { useDesk } from "../parts/desk/desk";
import { CartPart } from "../parts/sentence/cart-part";

const Chart = dynamic(() => import("./chart").then((module) => module.OfferChart), {
  ssr: false,
  loading: () => <div style={{ height: 220 }} />,
});

/** What offers make of the lens's cart, step by step, beside the cart itself; and of every cart value, as a chart. */
export function Account({ offer }: { offer: Offer }) {
  const { look } = useDesk();
  const { ruleset } = look.engine;
  const { currency, language } = ruleset.site;
  const reckoning = useMemo(() => reckoner(ruleset)(look.engine.read(look.visit)), [ruleset, look.engine, look.visit]);
  const money = (minor: number) => formatMoney(minor, currency, language);
  return (
    <>
      <div className="cartdesk">
        <CartPart visit={look.visit} setVisit={look.setVisit} focus={false} />
        <div>
          {reckoning ? (
            <table className="account" aria-label={t("How the total comes about")}>
              <tbody>
                <tr>
                  <td>{t("Subtotal")}</td>
                  <td className="amount">{money(reckoning.subtotal)}</td>
                </tr>
                {accountOf(reckoning, ruleset).map((line) => (
                  <tr key={line.offer} className={line.verdict === "applied" ? "" : "dim"}>
                    <td>
                      <b>{line.name}</b>
                      <div className="quiet">{line.says}</div>
                    </td>
                    <td className="amount">
                      {line.verdict === "applied" ? (line.discount > 0 ? `−${money(line.discount)}` : "✓") : "–"}
                    </td>
                  </tr>
                ))}
                <tr className="sum">
                  <td>
                    {t("Total{freeDelivery}", { freeDelivery: reckoning.freeDelivery ? t(", delivery free") : "" })}
                  </td>
                  <td className="amount">{money(reckoning.total)}</td>
                </tr>
              </tbody>
            </table>
          ) : (
            <p className="quiet">
              {t("No cart is told, or it is in another currency: offers have nothing to reckon with.")}
            </p>
          )}
        </div>
      </div>
      <Chart offer={offer} />
    </>
  );
}
