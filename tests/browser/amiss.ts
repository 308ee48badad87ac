import type { Page } from "@playwright/test";

/** What is amiss on what is shown now, each in words. */
export const amiss = (page: Page): Promise<string[]> =>
  page.evaluate(() => {
    const out = new Set<string>();
    const name = (element: Element) =>
      `${element.localName}.${[...element.classList].filter((one) => !one.startsWith("css-")).join(".")} “${(
        element.getAttribute("aria-label") ??
        element.textContent ??
        ""
      )
        .trim()
        .slice(0, 40)}”`;
    const isSeen = (element: Element) => {
      const { width, height } = element.getBoundingClientRect();
      const { visibility, clipPath } = getComputedStyle(element);
      return (
        width > 1 &&
        height > 1 &&
        visibility !== "hidden" &&
        clipPath === "none" &&
        element.checkVisibility({ checkOpacity: true })
      );
    };
    /** Whether something around an element may be scrolled sideways: then it is not out of reach. */
    const scrolls = (element: Element | null): boolean =>
      element !== null && (/auto|scroll/.test(getComputedStyle(element).overflowX) || scrolls(element.parentElement));
    const sideways = document.documentElement.scrollWidth - innerWidth;
    if (sideways > 0) out.add(`scrolls sideways by ${sideways}`);
    for (const element of document.body.querySelectorAll<HTMLElement>("*")) {
      if (!isSeen(element) || element.closest("svg, .visuallyhidden")) continue;
      const box = element.getBoundingClientRect();
      const style = getComputedStyle(element);
      const ownText = [...element.childNodes].some(
        (node) => node.nodeType === 3 && (node.textContent ?? "").trim() !== "",
      );
      // Labels of fields are drawn smaller by a transform.
      const scale = style.transform === "none" ? 1 : new DOMMatrix(style.transform).a;
      if (ownText && parseFloat(style.fontSize) * scale < 11.95) out.add(`small text: ${name(element)}`);
      const control = element.matches("button, a[href], input, select, textarea, [role=button], [role=tab]");
      if (
        ownText &&
        /hidden|clip/.test(style.overflowX) &&
        style.textOverflow !== "ellipsis" &&
        element.scrollWidth > element.clientWidth + 1
      )
        out.add(`cut: ${name(element)}`);
      if (
        element.matches(".pill, .MuiButton-root, .MuiToggleButton-root") &&
        element.scrollWidth > element.clientWidth + 1
      )
        out.add(`cut: ${name(element)}`);
      if (!control || style.display === "inline") continue;
      // The field around an input is what is pressed.
      const pressed = (
        element.closest(".MuiInputBase-root, .MuiButtonBase-root, label") ?? element
      ).getBoundingClientRect();
      if (Math.min(pressed.width, pressed.height) < 23.95) out.add(`small target: ${name(element)}`);
      if ((box.right > innerWidth + 1 || box.left < -1) && !scrolls(element.parentElement))
        out.add(`out of the window: ${name(element)}`);
    }
    return [...out].sort();
  });
