"use client";
import { t } from "@/core/messages/t";
import { mergeAttributes, Node } from "@tiptap/core";
import { NodeViewWrapper, ReactNodeViewRenderer, type NodeViewProps } from "@tiptap/react";
import { createContext, useContext } from "react";

/** What a chip needs to know about the text that it stands in. */
export interface TokenWorld {
  /** What the lens at hand reads for a token as it is written; undefined: nothing. */
  read: (name: string, source: string) => string | undefined;
  /** The words for what a token stands for. */
  label: (name: string) => string;
  edit: (at: { name: string; source: string; position: number; anchor: HTMLElement }) => void;
}
export const TokenContext = createContext<TokenWorld | undefined>(undefined);

/** A value of the visit within a text, as a chip that shows what the lens at hand reads. */
export const TokenNode = Node.create({
  name: "token",
  group: "inline",
  inline: true,
  atom: true,
  selectable: true,
  addAttributes() {
    return {
      name: { default: "", parseHTML: (element) => element.getAttribute("data-token") },
      source: { default: "", parseHTML: (element) => element.getAttribute("data-source") },
    };
  },
  parseHTML: () => [{ tag: "span[data-token]" }],
  renderHTML: ({ node }) => [
    "span",
    mergeAttributes({ "data-token": node.attrs.name as string, "data-source": node.attrs.source as string }),
  ],
  addNodeView: () => ReactNodeViewRenderer(TokenChip, { as: "span" }),
});

function TokenChip({ node, getPos, selected }: NodeViewProps) {
  const world = useContext(TokenContext);
  const { name, source } = node.attrs as { name: string; source: string };
  const value = world?.read(name, source);
  return (
    <NodeViewWrapper as="span" className="token-place">
      <button
        type="button"
        contentEditable={false}
        className={`token${value === undefined ? " missing" : ""}${selected ? " selected" : ""}`}
        title={`${world?.label(name) ?? name}: ${value === undefined ? t("this visitor has no value for it") : t("this visitor reads “{value}”", { value })}`}
        aria-label={t("Value: {name}, {undefined}. Change it", {
          name: world?.label(name) ?? name,
          undefined: value === undefined ? t("missing for this visitor") : t("now {value}", { value }),
        })}
        onClick={(event) => {
          const position = getPos();
          if (position !== undefined) world?.edit({ name, source, position, anchor: event.currentTarget });
        }}
      >
        {world?.label(name) ?? name}
        <b>{value === undefined ? t("missing") : value}</b>
      </button>
    </NodeViewWrapper>
  );
}
