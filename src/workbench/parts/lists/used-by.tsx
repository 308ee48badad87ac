"use client";
import { t } from "@/core/messages/t";
import { To } from "../desk/site-address";
import type { User } from "@/core/ruleset/uses";
import { addressOf, variantAddress } from "../desk/screens";

const screensOf: Record<User["kind"], string> = {
  slot: "/pages",
  variant: "/pages",
  audience: "/audiences",
  marker: "/markers",
  offer: "/offers",
  popup: "/popups",
  redirect: "/redirects",
  goal: "/goals",
  collect: "/settings",
};

/** The address at which an owner of rules or content is edited. */
export const ownerAddress = (owner: User): string =>
  owner.kind === "variant"
    ? variantAddress(owner.slot ?? "", owner.id)
    : owner.kind === "slot"
      ? variantAddress(owner.id)
      : owner.kind === "collect"
        ? screensOf.collect
        : addressOf(screensOf[owner.kind], owner.id);

/** Where a thing is used: what a change of it touches. */
export function UsedBy({ uses }: { uses: readonly User[] }) {
  return (
    <section className="usedby" aria-label={t("Where it is used")}>
      <h3>
        {uses.length === 0
          ? t("Not used yet")
          : t("A change here touches {uses, plural, one {one thing} other {# things}}", { uses: uses.length })}
      </h3>
      {uses.map((owner) => (
        <To key={`${owner.kind} ${owner.id}`} href={ownerAddress(owner)}>
          {owner.name}
        </To>
      ))}
    </section>
  );
}
