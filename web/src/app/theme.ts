import { createGlobalStyle } from "styled-components";

/**
 * Colours from the bench. Enamel is structure, blue is measured, yellow means look here, red lead
 * means stop.
 */
export const GlobalStyle = createGlobalStyle`
  :root, :root[data-theme="daylight"] {
    --ground: #EEF1F0; --sheet: #FBFCFB; --ink: #14201D; --soft: #44534E; --line: #B9C4BF;
    --enamel: #2F5D50; --on-enamel: #FFFFFF;
    --enamel-tint: #DCE6E1; --blue: #1F4FA3; --blue-tint: #DEE7F5; --pen: #F2C230;
    --on-pen: #14201D; --red: #A61F18; --red-tint: #F7E1DF;
    --ochre: #7A4F00; --ochre-tint: #F5EAD3; color-scheme: light;
  }
  :root[data-theme="lamp"] {
    --ground: #121A18; --sheet: #1A2421; --ink: #EDF2F0; --soft: #B4C2BC; --line: #43524C;
    --enamel: #7FB5A3; --on-enamel: #0C1412;
    --enamel-tint: #25352F; --blue: #9CBCF5; --blue-tint: #233250; --pen: #F2C230;
    --on-pen: #14201D; --red: #FF9D94; --red-tint: #46201D;
    --ochre: #F0C26B; --ochre-tint: #3A2E17; color-scheme: dark;
  }
  * { box-sizing: border-box; }
  html, body, #root { height: 100%; margin: 0; }
  body {
    background: var(--ground); color: var(--ink); font: 16px/1.45 "B612", "DejaVu Sans", sans-serif;
    font-variant-numeric: tabular-nums; -webkit-font-smoothing: antialiased;
  }
  h1, h2, h3, p { margin: 0; }
  h1 { font-size: 26px; line-height: 1.2; }
  h2 { font-size: 19px; line-height: 1.3; }
  h3 { font-size: 16px; }
  a { color: var(--blue); }
  button, input, textarea { font: inherit; color: inherit; }
  input[type="file"]::file-selector-button {
    min-height: 44px; padding: 6px 14px; margin-right: 10px; border: 1.5px solid var(--enamel);
    background: transparent; color: var(--enamel); font: inherit; font-weight: 700;
  }
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
