import type { Filled } from "@/core/content/format";
import type { BlockType } from "@/core/formats/ruleset";
import { price } from "./catalogue";

/** The templates of the shop's block types: what each kind of content looks like on its pages. */

interface Picture {
  src: string;
  alt?: string;
}
export const textOf = (block: Filled, id: string): string => {
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
  const label = textOf(block, "button");
  const to = href(textOf(block, "link"));
  return label && to ? (
    <a className="button" href={to}>
      {label}
    </a>
  ) : null;
}

function Picture({ block, id, ...size }: { block: Filled; id: string; width: number; height: number }) {
  const picture = pictureOf(block, id);
  return picture && href(picture.src) ? <img src={picture.src} alt={picture.alt ?? ""} {...size} /> : null;
}

/** Rich text. It was cleaned when its tokens were put in: no script, no foreign markup. */
function Rich({ block, id }: { block: Filled; id: string }) {
  const html = textOf(block, id);
  return html ? <div className="rich" dangerouslySetInnerHTML={{ __html: html }} /> : null;
}

/** The form of a pop-up: where there is a word for its button, it asks for an e-mail address. */
function AskForm({ block }: { block: Filled }) {
  const label = textOf(block, "ask");
  return label ? (
    <form method="post" action="/letter-ask" className="ask">
      <input
        name="address"
        type="email"
        required
        maxLength={200}
        placeholder="you@post.example"
        aria-label="E-mail address"
      />
      <button>{label}</button>
    </form>
  ) : null;
}

function PopupBody({ block, frames }: { block: Filled; frames: readonly string[] }) {
  const frame = textOf(block, "frame");
  const framed = URL.canParse(frame) && frames.includes(new URL(frame).host) ? frame : undefined;
  return (
    <>
      <Picture block={block} id="picture" width={800} height={420} />
      <div className="popup-words">
        {textOf(block, "headline") && <h2>{textOf(block, "headline")}</h2>}
        <Rich block={block} id="text" />
        <Button block={block} />
        <AskForm block={block} />
      </div>
      {framed && (
        <iframe
          src={framed}
          title={textOf(block, "headline") || "A page of another site"}
          sandbox="allow-scripts allow-forms allow-same-origin"
          loading="lazy"
        />
      )}
    </>
  );
}

interface Props {
  block: Filled;
  /** Hosts whose pages may stand in a frame. */
  frames: readonly string[];
}

const templates: Record<string, (props: Props) => React.ReactNode> = {
  bar: ({ block }) => {
    const to = href(textOf(block, "link"));
    return <div className="bar">{to ? <a href={to}>{textOf(block, "text")}</a> : textOf(block, "text")}</div>;
  },
  hero: ({ block }) => (
    <section className="hero">
      <div>
        <h1>{textOf(block, "headline")}</h1>
        <p>{textOf(block, "text")}</p>
        <Button block={block} />
      </div>
      <Picture block={block} id="picture" width={800} height={420} />
    </section>
  ),
  note: ({ block }) => (
    <aside className="note">
      <b>{textOf(block, "headline")}</b> {textOf(block, "text")}
    </aside>
  ),
  help: ({ block }) => (
    <section className="help">
      <div>
        <h2>{textOf(block, "headline")}</h2>
        <p>{textOf(block, "text")}</p>
      </div>
      <Button block={block} />
    </section>
  ),
  article: ({ block }) => (
    <article className="words">
      <h2>{textOf(block, "headline")}</h2>
      <Rich block={block} id="body" />
    </article>
  ),
  offer: ({ block }) => (
    <section className="offer-card">
      <h3>{textOf(block, "headline")}</h3>
      <p>{textOf(block, "text")}</p>
      {typeof block.fields.price === "number" && <b>{price(Math.round(block.fields.price * 100))}</b>}
      <Button block={block} />
    </section>
  ),
  "popup-box": PopupBody,
  "popup-corner": PopupBody,
  "popup-bar": PopupBody,
};

/** A block of a type that the shop has no template for: its fields in order, each by its kind. */
function PlainBlock({ block, type }: { block: Filled; type: BlockType }) {
  return (
    <section className="plain-block">
      {type.fields.map((field) => {
        const value = block.fields[field.id];
        switch (field.kind) {
          case "html":
            return <Rich key={field.id} block={block} id={field.id} />;
          case "image":
            return <Picture key={field.id} block={block} id={field.id} width={800} height={420} />;
          case "link": {
            const to = href(textOf(block, field.id));
            return to ? (
              <a key={field.id} className="button" href={to}>
                {field.name}
              </a>
            ) : null;
          }
          case "flag":
            return null;
          default:
            return value === undefined || value === "" ? null : <p key={field.id}>{String(value)}</p>;
        }
      })}
    </section>
  );
}

/** One block of content by its type's template. */
export function Block({ types, ...props }: Props & { types: readonly BlockType[] }) {
  const { block } = props;
  const Template = Object.hasOwn(templates, block.type) ? templates[block.type] : undefined;
  if (Template) return <Template {...props} />;
  const type = types.find((item) => item.id === block.type);
  return type ? <PlainBlock block={block} type={type} /> : null;
}
