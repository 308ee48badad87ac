/** Draws blocks into a page: by the page's own templates, else plainly, field by field. */

import { safe } from "./own";

export interface DrawnBlock {
  type: string;
  fields: Record<string, unknown>;
}
export type Kinds = Record<string, { id: string; name: string; kind: string }[]>;

const make = <K extends keyof HTMLElementTagNameMap>(name: K, text?: string): HTMLElementTagNameMap[K] => {
  const element = document.createElement(name);
  if (text !== undefined) element.textContent = text;
  return element;
};
const picture = (value: unknown): { src: string; alt?: string } | undefined =>
  typeof value === "string"
    ? { src: value }
    : typeof value === "object" && value !== null
      ? (value as { src: string })
      : undefined;

/** What stands in one field. Rich text was cleaned by the server; everything else is text, never markup. */
function put(element: Element, value: unknown, kind: string): void {
  if (kind === "html") element.innerHTML = String(value ?? "");
  else if (element instanceof HTMLImageElement) {
    const found = picture(value);
    if (found && safe(found.src)) {
      element.src = found.src;
      element.alt = found.alt ?? "";
    } else element.remove();
  } else if (kind === "link" && element instanceof HTMLAnchorElement) {
    if (safe(String(value ?? ""))) element.href = String(value);
    else element.removeAttribute("href");
  } else element.textContent = String(value ?? "");
}

/**
 * A block as elements. A page gives its own look by `<template data-mirada-type="hero">` with `data-mirada-field="headline"` on
 * what is to be filled; `data-mirada-href="link"` sets where something leads.
 */
export function draw(block: DrawnBlock, kinds: Kinds): Node {
  const fields = kinds[block.type] ?? [];
  const kindOf = (id: string) => fields.find((field) => field.id === id)?.kind ?? "text";
  const own = [...document.querySelectorAll<HTMLTemplateElement>("template[data-mirada-type]")].find(
    (template) => template.dataset.miradaType === block.type,
  );
  if (own) {
    const made = own.content.cloneNode(true) as DocumentFragment;
    for (const element of made.querySelectorAll<HTMLElement>("[data-mirada-href]"))
      put(element, block.fields[element.dataset.miradaHref as string], "link");
    for (const element of made.querySelectorAll<HTMLElement>("[data-mirada-field]")) {
      const id = element.dataset.miradaField as string;
      put(element, block.fields[id], kindOf(id) === "link" ? "text" : kindOf(id));
    }
    return made;
  }
  const out = make("div");
  out.className = `mirada-block mirada-${block.type}`;
  const link = fields.find((field) => field.kind === "link" && safe(String(block.fields[field.id] ?? "")));
  const button = typeof block.fields.button === "string" ? block.fields.button : undefined;
  for (const { id, kind } of fields) {
    const value = block.fields[id];
    if (value === undefined || value === null || value === "" || kind === "link" || kind === "flag" || id === "button")
      continue;
    if (kind === "image") {
      const image = make("img");
      put(image, value, kind);
      if (image.src) out.append(image);
    } else {
      const element = kind === "html" ? make("div") : id === "headline" ? make("strong") : make("p");
      put(element, value, kind);
      out.append(element);
    }
  }
  if (link) {
    const anchor = make("a", button ?? link.name);
    put(anchor, block.fields[link.id], "link");
    anchor.textContent = button ?? link.name;
    out.append(anchor);
  }
  return out;
}
