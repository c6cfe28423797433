/** Paper, lead, copper and the blue-green that grows on copper: the house's own materials, in two lights. */
import { createGlobalStyle } from "styled-components";

export type Light = "paper" | "bench";

/** A bench tablet and anything narrower. */
export const NARROW = "@media (max-width: 1179px)";
/** Upright, or a page enlarged: one column. */
export const UPRIGHT = "@media (max-width: 899px)";
/** A phone at the car. */
export const PHONE = "@media (max-width: 599px)";

export const FONT = "'Atkinson Hyperlegible Next Variable', system-ui, sans-serif";

export const GlobalStyle = createGlobalStyle`
  :root, :root[data-theme="paper"] {
    color-scheme: light;
    --ground: #f6f1e6; --shelf: #eee6d8; --sheet: #fffdf7; --line: #cfc7b7; --rule: #1f2226;
    --ink: #1f2226; --soft: #575b60; --copper: #a2480f; --copper-pale: #eed3bd;
    --sound: #0d6355; --sound-pale: #a9c6b8; --failed: #6b1f47; --failed-pale: #d9bccb;
    --doubt: #7a5a08; --doubt-pale: #ecdcae; --lead: #3c4149; --lead-pale: #d7d3ca; --plum: #5b2b6e;
    --band-a: #1f2226; --band-b: #f6ecc9; --on-ink: #fffdf7; --step: #1f2226; --on-step: #fffdf7; --failed-on-lead: #ffb3d4;
  }
  :root[data-theme="bench"] {
    color-scheme: dark;
    --ground: #191c1f; --shelf: #22262a; --sheet: #24282c; --line: #454a50; --rule: #e9e2d2;
    --ink: #f5efe1; --soft: #b9b5aa; --copper: #f2a36b; --copper-pale: #5a3a22;
    --sound: #7fd0ba; --sound-pale: #2c5a4f; --failed: #eda6c8; --failed-pale: #5d2f49;
    --doubt: #e2bd63; --doubt-pale: #57481e; --lead: #9aa1a9; --lead-pale: #3a3f45; --plum: #cfa9ea;
    --band-a: #0c0d0f; --band-b: #f6ecc9; --on-ink: #191c1f; --step: #33393f; --on-step: #f5efe1; --failed-on-lead: #5d1f3f;
  }
  *, *::before, *::after { box-sizing: border-box; }
  html, body, #root { height: 100%; margin: 0; }
  body { overflow: hidden; }
  body {
    background: var(--ground); color: var(--ink);
    font: 400 16px/1.35 ${FONT}; font-feature-settings: "tnum";
    -webkit-font-smoothing: antialiased;
  }
  button, input { font: inherit; color: inherit; font-feature-settings: inherit; }
  h1, h2, h3, p, ul, ol, dl, dd, figure { margin: 0; padding: 0; }
  ul, ol { list-style: none; }
  :focus-visible, [data-focus-visible] { outline: 3px solid var(--copper); outline-offset: 2px; }
  .quiet { position: absolute; width: 1px; height: 1px; overflow: hidden; clip-path: inset(50%); }
  @media (prefers-contrast: more) {
    :root, :root[data-theme="paper"] { --ground: #ffffff; --sheet: #ffffff; --shelf: #f2f2f2; --soft: #2b2e31; --line: #55585c; }
    :root[data-theme="bench"] { --ground: #000000; --sheet: #000000; --shelf: #101010; --soft: #e8e6df; --line: #b7b7b7; }
  }
  @media (forced-colors: active) {
    button, a, input { forced-color-adjust: auto; }
    [aria-current="page"], [aria-current="true"], [data-selected] { outline: 3px solid Highlight; }
    svg { forced-color-adjust: none; }
  }
  @media (prefers-reduced-motion: reduce) { *, *::before, *::after { transition: none !important; animation: none !important; } }
`;
