import { quoteText, readMessage, writeMessage, type Piece } from "@/core/content/message";

/** What a text field holds: one line, plain text of several lines, or rich text. */
export type TextKind = "line" | "text" | "html";

/** A document as the editor takes it. */
export interface Doc {
  type: string;
  content?: Doc[];
  text?: string;
  attrs?: Record<string, unknown>;
}

const escape = (text: string): string =>
  text.replaceAll("&", "&amp;").replaceAll('"', "&quot;").replaceAll("<", "&lt;").replaceAll(">", "&gt;");

/** A message as the editor shows it; undefined if it can only be shown as it is written. */
export function toEditor(source: string, kind: TextKind): Doc | string | undefined {
  const pieces = readMessage(source);
  if (!pieces) return undefined;
  if (kind === "html") {
    // A token within a tag has no place in a text: it is shown as written.
    if (/<[^>]*\{[^<]*>/.test(source)) return undefined;
    return pieces
      .map((piece) =>
        "text" in piece
          ? piece.text
          : `<span data-token="${escape(piece.token)}" data-source="${escape(piece.source)}"></span>`,
      )
      .join("");
  }
  const lines: Doc[][] = [[]];
  for (const piece of pieces) {
    if ("token" in piece) lines.at(-1)?.push({ type: "token", attrs: { name: piece.token, source: piece.source } });
    else
      piece.text.split("\n").forEach((text, index) => {
        if (index > 0) lines.push([]);
        if (text !== "") lines.at(-1)?.push({ type: "text", text });
      });
  }
  return { type: "doc", content: lines.map((content) => ({ type: "paragraph", content })) };
}

/** The message of a plain document. */
export function fromDoc(doc: Doc): string {
  const pieces: Piece[] = [];
  doc.content?.forEach((paragraph, index) => {
    if (index > 0) pieces.push({ text: "\n" });
    for (const node of paragraph.content ?? [])
      pieces.push(
        node.type === "token"
          ? { token: String(node.attrs?.name), source: String(node.attrs?.source) }
          : { text: node.text ?? "" },
      );
  });
  return writeMessage(pieces);
}

/** The message of a rich document, given as the editor's HTML. An empty one is empty. */
export function fromHtml(html: string): string {
  const parts = html.split(/(<span data-token="[^"]*" data-source="[^"]*"><\/span>)/);
  const source = parts
    .map((part) => {
      const token = /^<span data-token="[^"]*" data-source="([^"]*)"><\/span>$/.exec(part);
      return token
        ? (token[1] as string)
            .replaceAll("&quot;", '"')
            .replaceAll("&lt;", "<")
            .replaceAll("&gt;", ">")
            .replaceAll("&amp;", "&")
        : quoteText(part);
    })
    .join("");
  return /^(<p><\/p>)*$/.test(source) ? "" : source;
}
