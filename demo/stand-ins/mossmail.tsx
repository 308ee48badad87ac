import { mailed } from "@/core/campaigns/arrivals";
import type { CampaignLink } from "@/core/campaigns/link";
import { WayIn } from "./frame";

interface Props {
  /** The mail that is open, by the id of its link. */
  open: string | undefined;
  links: readonly CampaignLink[];
  here: string;
  shop: string;
  workbench: string;
}

/** A mailbox of somebody else: one letter for each kept link that says it comes from here. */
export function Mossmail({ open, links, here, shop, workbench }: Props) {
  const mails = mailed(links, "mossmail", here);
  const mail = mails.find((item) => item.id === open) ?? mails[0];
  return (
    <main>
      <nav aria-label="Letters">
        <h1>Mossmail</h1>
        <ul>
          {mails.map((item) => (
            <li key={item.id}>
              <a href={`/letters/${item.id}`} aria-current={item === mail}>
                <b>Brackenfold</b>
                {item.name}
              </a>
            </li>
          ))}
        </ul>
      </nav>
      <article>
        {mail ? (
          <>
            <h2>{mail.name}</h2>
            <p>From Brackenfold, to you{mail.says && ` · ${mail.says}`}</p>
            <p>The days are short, and the ferns do not mind. We have put aside what likes a dim room.</p>
            <p>
              <WayIn arrival={mail} shop={shop} workbench={workbench}>
                See the winter collection
              </WayIn>
            </p>
            <p>With moss on our boots, Brackenfold</p>
          </>
        ) : (
          <p>No letter has come yet. Each kept link whose source is mossmail brings one.</p>
        )}
        <footer>A stand-in for a mailbox. Nothing is sent, and nothing is kept.</footer>
      </article>
    </main>
  );
}
