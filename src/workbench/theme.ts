"use client";
import { createFilterOptions, type AutocompleteRenderGroupParams } from "@mui/material/Autocomplete";
import { deDE, ptPT } from "@mui/material/locale";
import { createTheme, type Theme, type ThemeOptions } from "@mui/material/styles";
import type {} from "@mui/x-date-pickers/themeAugmentation";
import { createElement } from "react";
import type { Language } from "@/core/messages/languages";
import { themeAttribute } from "./theme-attribute";

const ui = '"Hanken Grotesk Variable", system-ui, sans-serif';
/** The face of sentences and headings. */
export const read = '"Source Serif 4 Variable", Georgia, serif';

const light = {
  ground: "#f5f3ee",
  panel: "#ffffff",
  ink: "#1f242c",
  quiet: "#5c636e",
  hair: "#dcd7cc",
  problem: "#b3382c",
  live: "#2b7a4b",
  draft: "#8a6a12",
  lens: "#5b4b9a",
};
const dark: typeof light = {
  ground: "#191b1f",
  panel: "#212429",
  ink: "#eceae4",
  quiet: "#a8adb6",
  hair: "#3a3e45",
  problem: "#f08b7f",
  live: "#6fc492",
  draft: "#d9b95c",
  lens: "#b3a5ee",
};

const palette = (c: typeof light) => ({
  primary: { main: c.ink, contrastText: c.panel },
  secondary: { main: c.lens },
  error: { main: c.problem },
  success: { main: c.live },
  warning: { main: c.draft },
  text: { primary: c.ink, secondary: c.quiet },
  background: { default: c.ground, paper: c.panel },
  divider: c.hair,
});

/** A group in a list of options, which says its name once, to whoever listens as well (WAI-ARIA 1.2, listbox and group). */
const renderGroup = ({ key, group, children }: AutocompleteRenderGroupParams) =>
  createElement(
    "li",
    { key, role: "group", "aria-label": group, className: "optiongroup" },
    createElement("div", { "aria-hidden": true }, group),
    createElement("ul", { role: "presentation" }, children),
  );

const options: ThemeOptions = {
  cssVariables: { colorSchemeSelector: themeAttribute },
  colorSchemes: { light: { palette: palette(light) }, dark: { palette: palette(dark) } },
  shape: { borderRadius: 6 },
  spacing: 4,
  typography: {
    fontFamily: ui,
    body1: { fontSize: 13.5, lineHeight: 1.45 },
    body2: { fontSize: 12.5, lineHeight: 1.45 },
    button: { textTransform: "none", fontWeight: 550, fontSize: 13, letterSpacing: 0, lineHeight: 1.45 },
  },
  transitions: {
    duration: {
      shortest: 80,
      shorter: 100,
      short: 120,
      standard: 140,
      complex: 140,
      enteringScreen: 120,
      leavingScreen: 90,
    },
  },
  components: {
    MuiButtonBase: {
      defaultProps: { disableRipple: true },
      styleOverrides: {
        root: {
          "&:focus-visible, &.Mui-focusVisible": { outline: "2px solid var(--lens)", outlineOffset: 1 },
          "&.MuiMenuItem-root:focus-visible": { outlineOffset: -2 },
        },
      },
    },
    MuiButton: {
      defaultProps: { variant: "outlined", size: "small", disableElevation: true },
      styleOverrides: {
        root: { minWidth: 0, minHeight: 24, padding: "4px 10px", whiteSpace: "nowrap", flexShrink: 0 },
        outlined: { borderColor: "var(--hair)", background: "var(--panel)" },
      },
    },
    MuiIconButton: { styleOverrides: { root: { borderRadius: 6, padding: 5 } } },
    MuiTextField: { defaultProps: { size: "small", fullWidth: true } },
    MuiSelect: { defaultProps: { size: "small" } },
    MuiAutocomplete: {
      // Of a long list so many are drawn; whoever types finds the others.
      defaultProps: { size: "small", filterOptions: createFilterOptions({ limit: 100 }), renderGroup },
      styleOverrides: {
        inputRoot: {
          "&.MuiOutlinedInput-root.MuiInputBase-sizeSmall": { paddingTop: 2, paddingBottom: 2, paddingLeft: 5 },
        },
      },
    },
    MuiOutlinedInput: {
      styleOverrides: {
        root: { background: "var(--panel)", fontSize: 13.5 },
        notchedOutline: { borderColor: "var(--hair)", "& legend": { fontSize: "0.89em" } },
        input: { padding: "6px 9px" },
      },
    },
    MuiPickersOutlinedInput: {
      styleOverrides: {
        root: { background: "var(--panel)", fontSize: 13.5, height: 32, paddingLeft: 9, paddingRight: 6 },
        notchedOutline: { borderColor: "var(--hair)", "& legend": { fontSize: "0.89em" } },
      },
    },
    MuiPickersInputBase: {
      styleOverrides: { root: { minWidth: 0 }, sectionsContainer: { padding: "6px 0", minWidth: 0 } },
    },
    MuiInputLabel: {
      styleOverrides: {
        root: {
          fontSize: 13.5,
          "&.MuiInputLabel-outlined:not(.MuiInputLabel-shrink)": { transform: "translate(10px, 6.5px)" },
          "&.MuiInputLabel-outlined.MuiInputLabel-shrink": { transform: "translate(14px, -9px) scale(0.89)" },
        },
      },
    },
    MuiFormHelperText: { styleOverrides: { root: { margin: "3px 2px 0", fontSize: 12 } } },
    MuiMenuItem: { styleOverrides: { root: { fontSize: 13.5, minHeight: 30, paddingTop: 4, paddingBottom: 4 } } },
    MuiPaper: { styleOverrides: { root: { backgroundImage: "none" } } },
    // Where the window becomes narrower, what floats makes it no wider.
    MuiPopper: { defaultProps: { popperOptions: { strategy: "fixed" } } },
    MuiPopover: {
      styleOverrides: { paper: { border: "1px solid var(--hair)", boxShadow: "0 8px 28px rgb(0 0 0 / .14)" } },
    },
    MuiChip: { defaultProps: { size: "small" }, styleOverrides: { root: { borderRadius: 4, fontSize: 12.5 } } },
    MuiTooltip: { defaultProps: { enterDelay: 400 } },
    MuiToggleButton: {
      styleOverrides: {
        root: {
          padding: "3px 9px",
          textTransform: "none",
          whiteSpace: "nowrap",
          fontSize: 12.5,
          lineHeight: 1.5,
          color: "var(--quiet)",
          background: "var(--panel)",
          borderColor: "var(--hair)",
          "&.Mui-selected, &.Mui-selected:hover": { background: "var(--ink)", color: "var(--panel)" },
        },
      },
    },
    MuiDialogTitle: {
      styleOverrides: { root: { fontFamily: read, fontWeight: 600, fontSize: 20, padding: "18px 22px 10px" } },
    },
  },
};

/** How everything looks, with the few words that its parts say by themselves in a language. */
export const themeIn = (language: Language): Theme =>
  language === "en" ? createTheme(options) : createTheme(options, language === "de" ? deDE : ptPT);
