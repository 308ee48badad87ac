/** The attribute of the page that says which theme is on: "light" or "dark". */
export const themeAttribute = "data-theme";
