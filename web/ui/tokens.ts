import { createGlobalStyle, css } from 'styled-components';

/** The light theme’s colours: whatever the theme on the screen, paper is light. */
export const LIGHT_COLOURS: Readonly<Record<string, string>> = {
  '--paper': '#f6f2e8',
  '--sheet': '#fdfbf5',
  '--ink': '#1d2420',
  '--quiet': '#56605a',
  '--rule': '#ddd5c3',
  '--rule-strong': '#8d8a7c',
  '--fern': '#2b6a49',
  '--fern-soft': '#dfece2',
  '--fern-deep': '#1f5038',
  '--on-fern': '#fdfbf5',
  '--rust': '#ab4c17',
  '--rust-soft': '#f7e4d5',
  '--rust-deep': '#8a3b0f',
  '--on-rust': '#fdfbf5',
  '--hover': '#f1ebdd',
  '--field': '#f5f1e6',
  '--focus': '#1d2420',
  '--shade': 'rgb(29 36 32 / 38%)',
  '--mark-0': '#2b6a49',
  '--mark-1': '#ab4c17',
  '--mark-2': '#2f6690',
  '--mark-3': '#a87709',
  '--mark-4': '#7a4a89',
  '--mark-5': '#157f83',
  '--mark-6': '#a63d5e',
  '--mark-7': '#5c7a1c',
  '--mark-8': '#5257a5',
  '--mark-9': '#8a5a3c',
  '--mark-10': '#4b6b73',
  '--mark-11': '#93487a',
};

const light = [
  ...Object.entries(LIGHT_COLOURS).map(([name, colour]) => `${name}: ${colour};`),
  'color-scheme: light;',
].join('\n');

const dark = css`
  --paper: #171c19;
  --sheet: #1e2420;
  --ink: #ece7da;
  --quiet: #a5ada5;
  --rule: #39413b;
  --rule-strong: #778077;
  --fern: #7fc29b;
  --fern-soft: #24382d;
  --fern-deep: #9ad4b2;
  --on-fern: #14201a;
  --rust: #e59a63;
  --rust-soft: #3d2a1e;
  --rust-deep: #f0b183;
  --on-rust: #221408;
  --hover: #283029;
  --field: #242c25;
  --focus: #ece7da;
  --shade: rgb(0 0 0 / 55%);
  --mark-0: #7fc29b;
  --mark-1: #e59a63;
  --mark-2: #83b6e0;
  --mark-3: #dcb45a;
  --mark-4: #c49ad2;
  --mark-5: #6cc6c8;
  --mark-6: #e58ea8;
  --mark-7: #b3cc6e;
  --mark-8: #a3a8ec;
  --mark-9: #cfa68a;
  --mark-10: #9dbcc4;
  --mark-11: #dc9cc8;
  color-scheme: dark;
`;

/** Breakpoints, in px of the window's width. */
export const NARROW = '@media (max-width: 920px)';
/** A phone in the hand. */
export const HAND = '@media (max-width: 520px)';
export const PRINT = '@media print';
/** Colours that the tester's system sets in place of ours. */
export const FORCED = '@media (forced-colors: active)';

export const GlobalStyle = createGlobalStyle`
  :root {
    ${light}
    --text: 'Atkinson Hyperlegible Next Variable', system-ui, sans-serif;
    --typed: 'Atkinson Hyperlegible Mono Variable', ui-monospace, monospace;
    --size-13: 0.8125rem;
    --size-15: 0.9375rem;
    --size-16: 1rem;
    --size-19: 1.1875rem;
    --size-25: 1.5625rem;
    --size-29: 1.8125rem;
    --size-58: 3.625rem;
    --size-104: 6.5rem;
    --corner: 8px;
    --corner-large: 10px;
  }
  @media (prefers-color-scheme: dark) { :root:not([data-theme='light']) { ${dark} } }
  :root[data-theme='dark'] { ${dark} }
  ${PRINT} { :root, :root[data-theme='dark'] { ${light} } }

  *, *::before, *::after { box-sizing: border-box; }
  html { background: var(--paper); }
  body {
    margin: 0;
    font: 400 var(--size-16) / 1.45 var(--text);
    font-variant-numeric: tabular-nums lining-nums;
    color: var(--ink);
    background: var(--paper);
    -webkit-font-smoothing: antialiased;
  }
  #root { min-height: 100vh; display: flex; flex-direction: column; isolation: isolate; }
  h1, h2, h3, p, ol, ul, dl, dd, figure { margin: 0; padding: 0; }
  h1 { font-size: var(--size-29); line-height: 1.18; font-weight: 680; letter-spacing: -0.01em; text-wrap: balance; }
  h2 { font-size: var(--size-16); line-height: 1.4; font-weight: 680; }
  h3 { font-size: var(--size-15); line-height: 1.4; font-weight: 660; }
  ul, ol { list-style: none; }
  button, input, textarea, select { font: inherit; color: inherit; font-variant-numeric: inherit; }
  a { color: var(--fern); text-underline-offset: 3px; }
  ::selection { background: var(--fern-soft); color: var(--ink); }
  :focus-visible { outline: 2px solid var(--focus); outline-offset: 2px; }
  @media (prefers-reduced-motion: reduce) { * { transition: none !important; animation: none !important; } }
`;

/** Small quiet heading above a group. */
export const label = css`
  font-size: var(--size-13);
  font-weight: 660;
  color: var(--quiet);
  line-height: 1.4;
`;

/** The ring that shows keyboard focus. */
export const focusRing = css`
  outline: 2px solid var(--focus);
  outline-offset: 2px;
`;
