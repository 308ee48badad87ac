/** What tests of the workbench's parts share: drawing into a page, and pressing and typing as one would. */
import { act } from "react";
import { createRoot } from "react-dom/client";

export interface Mounted {
  place: HTMLElement;
  /** Draws it anew. */
  draw: (node: React.ReactNode) => Promise<void>;
  end: () => Promise<void>;
}

/** Draws into a page of its own place. */
export async function mount(node: React.ReactNode): Promise<Mounted> {
  (globalThis as { IS_REACT_ACT_ENVIRONMENT?: boolean }).IS_REACT_ACT_ENVIRONMENT = true;
  const place = document.body.appendChild(document.createElement("div"));
  const root = createRoot(place);
  const draw = (now: React.ReactNode) => act(async () => root.render(now));
  await draw(node);
  return { place, draw, end: () => act(async () => (root.unmount(), place.remove())) };
}

/** The button or entry of that name, anywhere in the page. */
export function named(name: string): HTMLElement {
  const all = document.body.querySelectorAll<HTMLElement>("button, [role=menuitem], [role=option], [role=button]");
  const found = [...all].find((one) => (one.getAttribute("aria-label") ?? one.textContent)?.trim() === name);
  if (!found) throw new Error(`there is no ${name} among ${[...all].map((one) => one.textContent).join(" | ")}`);
  return found;
}
export const press = (name: string): Promise<void> => act(async () => named(name).click());

/** Types into a field, and leaves it. */
export const type = (field: HTMLInputElement, text: string): Promise<void> =>
  act(async () => {
    field.focus();
    Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value")?.set?.call(field, text);
    field.dispatchEvent(new Event("input", { bubbles: true }));
    field.blur();
  });
/** Lets everything that waits for no time come about. */
export const settled = (): Promise<void> => act(async () => new Promise((done) => setTimeout(done)));
