import { found, sponsored, type Arrival } from "@/core/campaigns/arrivals";
import type { CampaignLink } from "@/core/campaigns/link";
import { WayIn } from "./frame";

interface Props {
  search: string;
  links: readonly CampaignLink[];
  pages: readonly { path: string; title: string; text?: string }[];
  /** The page’s own address: what it tells the shop of where its visitors come from. */
  here: string;
  shop: string;
  workbench: string;
}

/** A search engine of somebody else: sponsored links above what it finds. */
export function Quarry({ search, links, pages, here, shop, workbench }: Props) {
  const ads = search === "" ? [] : sponsored(links, "quarry", search, here);
  const results = search === "" ? [] : found(pages, search, here);
  const line = (arrival: Arrival, ad: boolean) => (
    <li key={arrival.id}>
      {ad && <small>Sponsored</small>}
      <WayIn arrival={arrival} shop={shop} workbench={workbench}>
        {arrival.name}
      </WayIn>
      <p>{arrival.says}</p>
    </li>
  );
  return (
    <main>
      <header>
        <h1>
          <a href="/">Quarry</a>
        </h1>
        <form method="get" action="/search" role="search">
          <input name="q" aria-label="Search the web" defaultValue={search} maxLength={200} />
          <button>Dig</button>
        </form>
      </header>
      {search === "" ? (
        <p>
          Try <a href="/search?q=shade+fern">shade fern</a>, <a href="/search?q=maidenhair">maidenhair</a> or{" "}
          <a href="/search?q=first+frost">first frost</a>.
        </p>
      ) : (
        <>
          {ads.length > 0 && <ul className="ads">{ads.map((item) => line(item, true))}</ul>}
          {results.length > 0 ? (
            <ul>{results.map((item) => line(item, false))}</ul>
          ) : (
            <p>Nothing was found for “{search}”. Sponsored links are shown for any search.</p>
          )}
        </>
      )}
      <footer>A stand-in for a search engine. It knows one shop, and keeps nothing.</footer>
    </main>
  );
}
