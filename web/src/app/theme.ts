import { createGlobalStyle } from "styled-components";
import tokens from "../theme/tokens.json";

const variables = (palette: Record<string, string>) =>
  Object.entries(palette)
    .map(([name, value]) => `--${name}: ${value};`)
    .join(" ");
const { type, target } = tokens;
/** What is printed is daylight on white, whichever theme the screen has. */
export const PAPER = variables({ ...tokens.daylight, ground: "#FFFFFF", sheet: "#FFFFFF" });

/**
 * Colours from the bench, worked out for sun and gloves and for a dark bay with warm low light; the
 * server's theme says which. Enamel is structure, blue is measured, yellow means look here, red
 * lead means stop.
 */
export const GlobalStyle = createGlobalStyle`
  :root, :root[data-theme="daylight"] { ${variables(tokens.daylight)} color-scheme: light; }
  :root[data-theme="lamp"] { ${variables(tokens.lamp)} color-scheme: dark; }
  :root {
    --least: ${type.least}px; --note: ${type.note}px; --body: ${type.body}px;
    --name: ${type.name}px; --head: ${type.head}px; --bench: ${type.bench}px;
    --figure: ${type.figure}px; --target: ${target.target}px;
    --bench-target: ${target.bench}px; --next-target: ${target.next}px;
    --typed: "Atkinson Hyperlegible Mono Variable", "DejaVu Sans Mono", monospace;
  }
  * { box-sizing: border-box; }
  html, body, #root { height: 100%; margin: 0; }
  body {
    background: var(--ground); color: var(--ink);
    font: var(--body)/1.4 "Atkinson Hyperlegible Next Variable", "DejaVu Sans", sans-serif;
    font-variant-numeric: tabular-nums; -webkit-font-smoothing: antialiased;
  }
  h1, h2, h3, p { margin: 0; }
  h1 { font-size: var(--head); line-height: 1.15; text-wrap: balance; }
  h2 { font-size: var(--name); line-height: 1.3; }
  h3 { font-size: var(--body); }
  a { color: var(--blue); }
  button, input, textarea { font: inherit; color: inherit; }
  :focus-visible, [data-focus-visible] { outline: 3px solid var(--blue); outline-offset: 2px; }
  h1:focus-visible, h2:focus-visible, h3:focus-visible { outline: none; }
  @media (prefers-reduced-motion: reduce) {
    * { transition: none !important; animation: none !important; }
  }
`;

export type Theme = "daylight" | "lamp";

export function storedTheme(): Theme {
  return localStorage.getItem("theme") === "lamp" ? "lamp" : "daylight";
}

export function applyTheme(theme: Theme) {
  localStorage.setItem("theme", theme);
  document.documentElement.dataset.theme = theme;
}
