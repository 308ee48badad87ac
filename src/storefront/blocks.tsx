import type { Filled } from "@/core/content/format";

/** The templates of the shop's block types: what each kind of content looks like on its pages. */

interface Picture {
  src: string;
  alt?: string;
}
const text = (block: Filled, id: string): string => {
  const value = block.fields[id];
  return typeof value === "string" ? value : "";
};
const pictureOf = (block: Filled, id: string): Picture | undefined => {
  const value = block.fields[id];
  if (typeof value === "string") return value === "" ? undefined : { src: value };
  return typeof value === "object" && value !== null ? (value as Picture) : undefined;
};
/** Only web, mail and telephone addresses, and the site's own pages, lead anywhere. */
const href = (link: string): string | undefined =>
  /^(https?:\/\/|mailto:|tel:|\/(?!\/))/i.test(link) ? link : undefined;

function Button({ block }: { block: Filled }) {
  const label = text(block, "button");
  const to = href(text(block, "link"));
  return label && to ? (
    <a className="button" href={to}>
      {label}
    </a>
  ) : null;
}

const templates: Record<string, (props: { block: Filled }) => React.ReactNode> = {
  bar: ({ block }) => {
    const to = href(text(block, "link"));
    return <div className="bar">{to ? <a href={to}>{text(block, "text")}</a> : text(block, "text")}</div>;
  },
  hero: ({ block }) => {
    const picture = pictureOf(block, "picture");
    return (
      <section className="hero">
        <div>
          <h1>{text(block, "headline")}</h1>
          <p>{text(block, "text")}</p>
          <Button block={block} />
        </div>
        {picture && href(picture.src) && <img src={picture.src} alt={picture.alt ?? ""} width={800} height={420} />}
      </section>
    );
  },
  note: ({ block }) => (
    <aside className="note">
      <b>{text(block, "headline")}</b> {text(block, "text")}
    </aside>
  ),
  help: ({ block }) => (
    <section className="help">
      <div>
        <h2>{text(block, "headline")}</h2>
        <p>{text(block, "text")}</p>
      </div>
      <Button block={block} />
    </section>
  ),
};

/** One block of content by its type's template. */
export function Block({ block }: { block: Filled }) {
  const Template = Object.hasOwn(templates, block.type) ? templates[block.type] : undefined;
  return Template ? <Template block={block} /> : null;
}
