/**
 * Whole pages by others, to be tried on: of packages that are there for this (MIT licence each, by Start Bootstrap and
 * HTML5 Boilerplate), dashboards, shops' and companies' pages, blogs, forms.
 */
import { readdirSync, readFileSync, statSync } from "node:fs";
import { join, relative } from "node:path";

const packages = [
  "html5-boilerplate/dist",
  "startbootstrap-agency/dist",
  "startbootstrap-business-casual/dist",
  "startbootstrap-clean-blog/dist",
  "startbootstrap-creative/dist",
  "startbootstrap-freelancer/dist",
  "startbootstrap-landing-page/dist",
  "startbootstrap-modern-business/dist",
  "startbootstrap-new-age/dist",
  "startbootstrap-sb-admin/dist",
  "startbootstrap-sb-admin-2",
];

export interface WholePage {
  /** Of the package and the file: /startbootstrap-agency/dist/index.html */
  path: string;
  html: string;
}

/** The folder under which those packages lie, each under its own name. */
export const pagesRoot = join(import.meta.dirname, "../../node_modules");

export function wholePages(): WholePage[] {
  return packages.flatMap((name) => {
    const folder = join(pagesRoot, name);
    return readdirSync(folder)
      .filter((file) => file.endsWith(".html") && statSync(join(folder, file)).size > 1000)
      .sort()
      .map((file) => ({
        path: `/${relative(pagesRoot, join(folder, file))}`,
        html: readFileSync(join(folder, file), "utf8"),
      }));
  });
}
