import type { Arrival } from "@/core/campaigns/arrivals";

/** The address at which the workbench looks at an arrival through a lens. */
export const lensLink = (workbench: string, { target, referrer }: Pick<Arrival, "target" | "referrer">): string =>
  `${workbench}/s/brackenfold/arrivals?${new URLSearchParams({ target, from: referrer }).toString()}`;

/** A link into the shop, and beside it the same arrival through a lens. */
export function WayIn({
  arrival,
  shop,
  workbench,
  children,
}: {
  arrival: Arrival;
  shop: string;
  workbench: string;
  children: React.ReactNode;
}) {
  return (
    <>
      <a
        className="wayin"
        href={`${shop}${arrival.target}`}
        {...(arrival.referrer === "" ? { rel: "noreferrer" } : {})}
      >
        {children}
      </a>
      <a className="throughlens" href={lensLink(workbench, arrival)} rel="noreferrer" target="mirada-workbench">
        View as this visitor
      </a>
    </>
  );
}
